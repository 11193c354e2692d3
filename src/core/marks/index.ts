export { loadedBy } from './loadedBy';
export {
  clearOfMarks,
  clearOnMm,
  clearZone,
  drawnSizeMm,
  frameLine,
  markOutline,
  markPlaces,
  shapeAt,
  type SheetSize,
} from './markPlaces';
export { markPicture, drawMarks } from './drawMarks';
export { markWarnings } from './markWarnings';
export { registrationOf, type Registration } from './registration';
export {
  CORNERS,
  LAID_BY,
  LEAD_SIGNS,
  MARK_SHAPES,
  SIDES,
  type Corner,
  type LaidBy,
  type LeadSign,
  type MarkKit,
  type MarkPlace,
  type MarkShape,
  type Side,
} from './types';
