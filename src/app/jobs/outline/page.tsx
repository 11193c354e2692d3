export { OutlinePage as default } from '@/features/artwork/OutlinePage';
