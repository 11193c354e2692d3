export { CheckPage as default } from '@/features/artwork/CheckPage';
