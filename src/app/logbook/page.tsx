export { LogbookPage as default } from '@/features/logbook/LogbookPage';
