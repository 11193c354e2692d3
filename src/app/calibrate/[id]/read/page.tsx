export { ReadPage as default } from '@/features/calibrate/ReadPage';
