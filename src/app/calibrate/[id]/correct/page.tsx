export { CorrectPage as default } from '@/features/calibrate/CorrectPage';
