export { AnotherPage as default } from '@/features/rig/AnotherPage';
