export { CalibratePage as default } from '@/features/calibrate/CalibratePage';
