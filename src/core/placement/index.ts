export {
  DRIVEN_U_MM,
  placementFrom,
  placementRefusalText,
  type Placement,
  type PlacementRefusal,
  type PlacementWarning,
} from './handRegistration';
