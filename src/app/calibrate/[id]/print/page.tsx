export { PrintPage as default } from '@/features/calibrate/PrintPage';
