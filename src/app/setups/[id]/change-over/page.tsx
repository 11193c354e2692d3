export { ChangeOverPage as default } from '@/features/setup/ChangeOverPage';
