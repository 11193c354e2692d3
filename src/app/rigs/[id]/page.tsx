export { RigPage as default } from '@/features/rig/RigPage';
