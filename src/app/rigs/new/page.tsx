export { NewRigPage as default } from '@/features/bench/NewRigPage';
