export { StripPage as default } from '@/features/calibrate/strip/StripPage';
