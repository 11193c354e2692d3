export { ProvePage as default } from '@/features/calibrate/ProvePage';
