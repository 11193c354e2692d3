export { SetupPage as default } from '@/features/setup/SetupPage';
