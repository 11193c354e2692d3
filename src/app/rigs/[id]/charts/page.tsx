export { ChartsPage as default } from '@/features/charts/ChartsPage';
