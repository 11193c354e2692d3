import { Fold } from '@/ui/Fold';
import { sideAtMachine } from '@/core/geometry';
import { rollerRoom, type RollerRoom } from '@/core/layout';
import { loadedBy, type MarkKit } from '@/core/marks';
import { plainLength, type LengthUnit } from '@/core/units';
import type { Setup } from '@/server/setups/setup';
import { edgeWords } from '@/ui/words/edgeWords';
import { rollerPlaces, rollerWarnings } from '@/ui/words/rollerWords';

const BOX = { width: 330, height: 236 };

/** The room for the outer rollers by the operator’s hands, left first. */
function roomAtHand(marks: MarkKit, rollers: Setup['roll']): RollerRoom[] {
  const loaded = loadedBy(marks);
  return rollerRoom(marks, rollers)
    .map((r) => ({ ...r, side: sideAtMachine(r.side, loaded) }))
    .sort((a, b) => a.side.localeCompare(b.side));
}

/** Which edge goes first, where the leading mark lies, where the rollers stand: as the operator sees it. */
export function LoadingCard({ setup, unit }: { setup: Setup; unit: LengthUnit }) {
  const { marks } = setup;
  const room = marks && roomAtHand(marks, setup.roll);
  const lead = marks && leadSide(marks);
  const x = { left: 40, right: BOX.width - 40 };
  const mark = { left: x.left + 34, right: x.right - 34 };
  const roller = { left: x.left + 13, right: x.right - 13 };
  return (
    <div>
      {marks && setup.roll.testCutTurned && (
        <TurnedFirst waste={loadedBy(marks).leadingEdge === 'near' ? 'far' : 'near'} />
      )}
      <svg
        viewBox={`0 0 ${BOX.width} ${BOX.height}`}
        width="100%"
        role="img"
        aria-label={loadingWords(setup, room, unit)}
      >
        <path
          d={`M${x.left} ${BOX.height - 8}V62H${x.right}V${BOX.height - 8}`}
          fill="var(--rp-paper)"
          stroke="var(--rp-ink)"
        />
        <path d={`M18 96H${BOX.width - 18}`} stroke="var(--rp-cut)" strokeWidth="2.4" strokeDasharray="7 4" />
        <text x={BOX.width / 2} y={90} textAnchor="middle" className="soft">
          cutting strip
        </text>
        {marks && (
          <>
            <path
              d={`M${BOX.width / 2} 48V14m-8 9l8-9 8 9`}
              stroke="var(--rp-plumb)"
              strokeWidth="2.4"
              fill="none"
            />
            <text x={BOX.width / 2 - 16} y={32} textAnchor="end">
              goes in first
            </text>
            <text x={BOX.width / 2 + 16} y={32}>
              {edgeWords(loadedBy(marks).leadingEdge, setup.bobFirst)}
            </text>
          </>
        )}
        {(['left', 'right'] as const).map((side, i) => (
          <g key={side}>
            <rect
              x={roller[side] - 6}
              y={103}
              width={12}
              height={30}
              rx={3}
              fill="var(--rp-ink-soft)"
              opacity="0.75"
            />
            {marks && <circle cx={mark[side]} cy={162} r={6} fill="var(--rp-ink)" />}
            {room && (
              <text
                x={roller[side] + (i === 0 ? 12 : -12)}
                y={134}
                textAnchor={i === 0 ? 'start' : 'end'}
                className="mono soft"
              >
                {plainLength(room[i]!.fromMm, unit).split(' ')[0]}–{plainLength(room[i]!.toMm, unit)}
              </text>
            )}
          </g>
        ))}
        {lead && (
          <>
            <circle cx={mark[lead]} cy={162} r={12} fill="none" stroke="var(--rp-plumb)" strokeWidth="2.4" />
            <text x={BOX.width / 2} y={184} textAnchor="middle">
              leading mark: on your {lead} hand
            </text>
          </>
        )}
        <text x={BOX.width / 2} y={116} textAnchor="middle" className="soft">
          rollers outside the marks
        </text>
        <rect
          x={mark.left - 10}
          y={192}
          width={mark.right - mark.left + 20}
          height={30}
          fill="var(--rp-print)"
          opacity="0.85"
        />
      </svg>
      <Fold name="loading-words" words="The same in words">
        <p className="small-print mb-0">{loadingWords(setup, room, unit)}</p>
      </Fold>
      {marks &&
        rollerWarnings(rollerRoom(marks, setup.roll), setup.roll.rollerMm, unit).map((words) => (
          <p key={words} className="notice mt-2 mb-0">
            {words}
          </p>
        ))}
    </div>
  );
}

/** The other way round first: the waste at the other end comes under the blade. */
function TurnedFirst({ waste }: { waste: 'near' | 'far' }) {
  return (
    <svg
      viewBox="0 0 330 96"
      width="100%"
      role="img"
      aria-label={`First the other way round: the waste at the ${waste} end goes in, for the test cut. Then turn it.`}
    >
      <text x="0" y="16" className="soft">
        first, turned round
      </text>
      <path d="M60 92V30H180V92" fill="var(--rp-paper)" stroke="var(--rp-ink)" />
      <path d="M44 50H196" stroke="var(--rp-cut)" strokeWidth="2.4" strokeDasharray="7 4" />
      <path d="M112 34h16v12h-16zM117 37h6v6h-6z" fill="none" stroke="var(--rp-cut)" strokeDasharray="3 2" />
      <rect x="74" y="66" width="92" height="26" fill="var(--rp-print)" opacity="0.85" />
      <path
        d="M222 84a26 26 0 1 0 -4 -34m-2 -14l2 14 14 -4"
        fill="none"
        stroke="var(--rp-plumb)"
        strokeWidth="2.4"
      />
      <text x="276" y="66">
        turn it
      </text>
    </svg>
  );
}

const LEAD_WORDS = {
  larger: 'the larger one',
  doubled: 'the doubled one',
  underlined: 'the one with a line beside it',
  none: 'the first one',
} as const;

/** The hand on which the operator finds the leading mark. */
const leadSide = (marks: MarkKit): 'left' | 'right' =>
  sideAtMachine(marks.leading.endsWith('left') ? 'left' : 'right', loadedBy(marks));

function loadingWords(
  { marks, roll, bobFirst }: Setup,
  room: readonly RollerRoom[] | null,
  unit: LengthUnit,
): string {
  if (!marks || !room) return 'The media stays in the machine: do not move it between print and cut.';
  const edge = edgeWords(loadedBy(marks).leadingEdge, bobFirst);
  const test = roll.testCutTurned
    ? 'Load it the other way round first, make the test cut in the waste, and turn it. Then: printed'
    : 'Printed';
  const after = roll.testCutTurned ? '' : ' Make the test cut in the lead first.';
  return `${test} side up, the ${edge}${bobFirst === null ? '' : ','} goes in first, straight to the cutting strip. The leading mark (${LEAD_WORDS[marks.leadSign]}) is on your ${leadSide(marks)} as you stand before the machine. Pinch rollers ${rollerPlaces(room, unit)}.${after}`;
}
