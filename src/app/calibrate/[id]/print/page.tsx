export { PrintPage as default } from '@/features/calibrate/print/PrintPage';
