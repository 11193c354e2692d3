export { NewRigPage as default } from '@/features/rig/NewRigPage';
