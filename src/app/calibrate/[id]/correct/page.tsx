export { CorrectPage as default } from '@/features/calibrate/correct/CorrectPage';
