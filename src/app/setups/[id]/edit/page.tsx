export { EditSetupPage as default } from '@/features/setup/EditSetupPage';
