export { ReadPage as default } from '@/features/calibrate/read/ReadPage';
