export {
  MM_PER_INCH,
  fromMm,
  lengthRefusalText,
  mmPerUnit,
  parseLength,
  toMm,
  type LengthRefusal,
  type LengthUnit,
} from './length';
export {
  angleFigure,
  degrees,
  directionWord,
  fixed,
  lengthFigure,
  lengthPlaces,
  lengthText,
  offsetText,
  placesOfStep,
  signed,
  signedLengthFigure,
  type OffsetAxis,
} from './format';
