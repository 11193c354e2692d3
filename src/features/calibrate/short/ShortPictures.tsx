import Button from 'react-bootstrap/Button';

import type { Station } from '@/core/proof';
import {
  offsetText,
  OFFSET_AXES,
  signed,
  signedLengthFigure,
  type LengthUnit,
  type OffsetAxis,
} from '@/core/units';

import { CoarsePicture } from '../read/CoarsePicture';
import { CombPicture, LoupeView } from '../read/CombPicture';
import { RingLook } from './RingLook';
import type { ShortHand } from './shortHand';
import type { SimulatedComb } from '@/server/sessions/simulatedCombs';

const KEYS = { across: ['←', '→'], along: ['↑', '↓'] } as const;
const KEY_LABELS = {
  across: ['One to the left', 'One to the right'],
  along: ['One further', 'One back'],
} as const;
const KEY_STEPS = { across: [-1, 1], along: [1, -1] } as const;
export const AXIS_NAMES: Readonly<Record<OffsetAxis, string>> = { across: 'Across', along: 'Along' };

/** Both combs as they lie on the sheet, their keys and figures, and the ring that says whether they are enough. */
export function ShortPictures({
  station,
  hand,
  offMm,
  unit,
  ready,
  press,
  halve,
  coarse,
}: {
  station: Station;
  hand: ShortHand;
  /** What the combs read, mm; null while nothing is worked out. */
  offMm: Readonly<Record<OffsetAxis, number>> | null;
  unit: LengthUnit;
  ready: boolean;
  press: (axis: OffsetAxis, by: 1 | -1) => void;
  /** Between two lines, and back. */
  halve: (axis: OffsetAxis) => void;
  coarse: () => void;
}) {
  return (
    <section className="short-paper" aria-label="Both combs">
      {OFFSET_AXES.map((axis) => (
        <div key={axis} className={`short-${axis}`}>
          {hand.coarse ? (
            <CoarsePicture
              axis={axis}
              atMm={hand[axis].coarseMm}
              words={`Coarse scale ${axis}, cut line at ${signed(hand[axis].coarseMm, 1)} mm`}
            />
          ) : (
            <CombPicture
              comb={station[axis]}
              steps={hand[axis].steps}
              unit={unit}
              size="pair"
              words={`Comb ${axis} as it looks at ${signedLengthFigure(offMm?.[axis] ?? 0, unit)} ${unit}`}
            />
          )}
        </div>
      ))}
      {OFFSET_AXES.map((axis) => (
        <fieldset key={axis} className={`short-hand short-hand-${axis}`} disabled={!ready}>
          {KEYS[axis].map((key, i) => (
            <Button
              key={key}
              variant="plain"
              aria-label={KEY_LABELS[axis][i]}
              onClick={() => press(axis, KEY_STEPS[axis][i]!)}
            >
              <kbd>{key}</kbd>
            </Button>
          ))}
          <span className="short-says">
            <strong>{AXIS_NAMES[axis]}</strong>
            <br />
            <span className="soft">
              {offMm && !hand.coarse ? offsetText(offMm[axis], axis, unit) : 'coarse scale'}
            </span>
          </span>
          <Button
            variant="link"
            className={hand[axis].stands || hand.coarse ? 'mono short-figure' : 'mono short-figure not-yet'}
            data-testid={`reads-${axis}`}
            aria-pressed={!Number.isInteger(hand[axis].steps)}
            title="Between two lines"
            onClick={() => halve(axis)}
          >
            {hand.coarse
              ? signed(hand[axis].coarseMm, 1)
              : offMm
                ? signedLengthFigure(offMm[axis], unit)
                : '…'}
          </Button>
        </fieldset>
      ))}
      <div className="short-ring">
        <p className="m-0">
          <strong>{hand.coarse ? 'Where do the cut lines cross?' : 'Your ring, unbroken like this?'}</strong>{' '}
          <Button variant="link" className="p-0 align-baseline" onClick={coarse} disabled={!ready}>
            {hand.coarse ? 'Then the combs' : 'Broken: coarse scale'} <kbd className="key-hint">c</kbd>
          </Button>
        </p>
        <div className="short-ring-picture">
          <RingLook bandMm={station.bandMm ?? 1} words="The printed ring is unbroken all round the cut." />
        </div>
      </div>
    </section>
  );
}

/** What the loupe of a simulated rig shows of the station. */
export function SimulatedLoupe({
  station,
  seen,
  unit,
  coarse,
}: {
  station: Station;
  seen: readonly SimulatedComb[];
  unit: LengthUnit;
  coarse: boolean;
}) {
  const of = (axis: OffsetAxis): SimulatedComb => seen.find((s) => s.axis === axis)!;
  return (
    <section className="short-loupe" aria-labelledby="short-loupe">
      <h2 id="short-loupe">Loupe of the simulated rig</h2>
      {OFFSET_AXES.map((axis) => (
        <div key={axis} data-testid={`loupe-${axis}`}>
          {coarse ? (
            <CoarsePicture
              axis={axis}
              atMm={of(axis).coarseMm}
              compact
              words={`Simulated loupe: the cut line crosses at ${of(axis).coarseMm} mm.`}
            />
          ) : (
            <LoupeView
              comb={station[axis]}
              unit={unit}
              landed={of(axis).landed}
              plumbAt={null}
              bold={null}
              words={`Simulated loupe ${axis}: match the comb to this one.`}
            />
          )}
        </div>
      ))}
      <div data-testid="loupe-ring">
        <RingLook
          bandMm={station.bandMm ?? 1}
          off={{ x: of('across').offMm, y: of('along').offMm }}
          words="Simulated loupe: the ring."
        />
      </div>
    </section>
  );
}
