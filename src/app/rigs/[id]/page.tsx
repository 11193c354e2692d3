export { RigPage as default } from '@/features/bench/RigPage';
