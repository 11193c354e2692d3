export { EditRigPage as default } from '@/features/rig/EditRigPage';
