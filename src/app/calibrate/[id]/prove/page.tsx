export { ProvePage as default } from '@/features/calibrate/prove/ProvePage';
