export { AgainPage as default } from '@/features/calibrate/again/AgainPage';
