export { SessionLogPage as default } from '@/features/logbook/SessionLogPage';
