export { ByHandPage as default } from '@/features/placement/ByHandPage';
