export { loadedBy } from './loadedBy';
export { clearOfMarks, clearZone, markOutline, markPlaces, type SheetSize } from './markPlaces';
export { markScene } from './markScene';
export { markWarnings } from './markWarnings';
export { registrationOf, type Registration } from './registration';
export {
  CORNERS,
  LEAD_SIGNS,
  MARK_SHAPES,
  type Corner,
  type LeadSign,
  type MarkKit,
  type MarkPlace,
  type MarkShape,
} from './types';
