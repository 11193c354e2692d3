export { RollPage as default } from '@/features/drift/RollPage';
