export {
  MOST_PIECES,
  MOST_SHEETS,
  planSheet,
  SHEET_PLAN_VERSION,
  type Placement,
  type SheetItem,
  type SheetJob,
  type SheetLayout,
} from './planSheet';
