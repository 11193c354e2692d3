import { PARAMETER_COUNT, type FitRefusal, type FittedModel } from './types';

/** What a refused fit needs, in one sentence an operator can act on. */
export function fitRefusalText(refusal: FitRefusal, model: FittedModel): string {
  const wants = `The ${model} model has ${PARAMETER_COUNT[model]} unknowns`;
  switch (refusal.code) {
    case 'no-uncertainty':
      return `Station ${refusal.stationId} has no uncertainty above zero. Give the standard uncertainty of its reading in mm.`;
    case 'not-finite':
      return `Station ${refusal.stationId} has a value that is not a finite number.`;
    case 'too-few-readings':
      return `${wants}; ${refusal.received} of at least ${refusal.required} readings are in. Read another station.`;
    case 'one-axis-only':
      return `No reading ${refusal.missing} the ${refusal.missing === 'across' ? 'media' : 'feed'} is in yet. Read that comb too.`;
    case 'coincident-stations':
      return `${wants}, but all readings are at one place. Read a station far from it.`;
    case 'single-row':
      return `${wants}, but all stations lie in one row across. Read a station further along the feed.`;
    case 'single-column':
      return `${wants}, but all stations lie in one column. Read a station further across the media.`;
    case 'collinear-stations':
      return `${wants}, but all stations lie on one line. Read a station to the side of it.`;
    case 'not-determined':
      return `${wants}, and these stations do not determine them. Read stations further apart.`;
    case 'folded':
      return `The readings fold the sheet over (determinant ${refusal.determinant.toPrecision(3)}): left and right were probably swapped at a station.`;
    default:
      return refusal satisfies never;
  }
}
