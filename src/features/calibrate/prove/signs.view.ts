import { oppositeOf, type EffectDirection } from '@/core/correction';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import type { FoundOut } from '@/server/sessions/signs';

import { settingFigure } from '../sentences';

/** What a direction does to the cut, and the same said of the past. */
const DOES: Readonly<Record<EffectDirection, readonly [now: string, then: string]>> = {
  right: ['move the cut right', 'moved it right'],
  left: ['move the cut left', 'moved it left'],
  further: ['move the cut further along the feed', 'moved it further along the feed'],
  back: ['move the cut back', 'moved it back'],
  wider: ['widen the cut', 'widened it'],
  narrower: ['narrow the cut', 'narrowed it'],
  longer: ['lengthen the cut', 'lengthened it'],
  shorter: ['shorten the cut', 'shortened it'],
  anticlockwise: ['turn the cut anticlockwise', 'turned it anticlockwise'],
  clockwise: ['turn the cut clockwise', 'turned it clockwise'],
};
/** “X from 0.15 to −0.40 mm should have moved the cut right; it moved it left.” */
export function foundOutWords({ setting, from, to, did, direction, times }: FoundOut): string {
  const unit = UNIT_WORDS[setting.unit];
  const typed = `${setting.name} from ${settingFigure(setting, from)} to ${settingFigure(setting, to)} ${unit}`;
  // Nobody knew which way it goes, and still nobody does: nothing is said of where it should have gone.
  if (!setting.directionKnown && did !== 'told')
    return `${typed}: which way it moved the cut cannot be told. See whether it was typed as said and kept by the machine, then push it again.`;
  const meant = to > from ? setting.direction : oppositeOf(setting.direction);
  const should = `${typed} should ${DOES[meant][0]}`;
  switch (did) {
    case 'told': {
      const really = to > from ? direction! : oppositeOf(direction!);
      return `${typed} ${DOES[really][1].replace(' it', ' the cut')}.`;
    }
    case 'reversed':
    case 'other-axis':
    case 'other-axis-reversed': {
      const really = to > from ? direction! : oppositeOf(direction!);
      return `${should}; it ${DOES[really][1]}.`;
    }
    case 'nothing':
      return `${should}; it did nothing. Was it typed, and kept by the machine?`;
    case 'other-unit':
      return `${should}; it did about ${Math.round(times)} times as much. See which unit the machine shows, and declare that one.`;
    case 'unclear':
      return `${should}; it did something else. See whether it was typed as said, then its direction and unit on the rig’s page.`;
    default:
      return did satisfies never;
  }
}

/** The button that declares it so: “X: right is left”. */
export const declareWords = (found: readonly FoundOut[]): string =>
  `Declare it so: ${found
    .filter((f) => f.direction !== null)
    .map((f) => `+1 on ${f.setting.name} is ${f.direction === 'further' ? 'further along' : f.direction}`)
    .join(', ')}`;
