export { RunPage as default } from '@/features/follow/run/RunPage';
