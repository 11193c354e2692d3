export { SheetJobPage as default } from '@/features/sheets/SheetJobPage';
