import dynamic from 'next/dynamic';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';

import { rollerRoom, type PlanWithCurves, type Strategy } from '@/core/layout';
import type { LengthUnit } from '@/core/units';
import type { Setup } from '@/server/setups/setup';
import type { PlanRequest } from '@/core/layout/planShape';
import { RollDrawing } from '@/ui/pictures/RollDrawing';
import { TypeThese } from '@/ui/pictures/TypeThese';
import {
  betterIfPossible,
  leftoverWords,
  overAtFirstWords,
  planAnswer,
  planReason,
  PLAN_FITS,
  planFit,
  spoiledWords,
  yieldWords,
} from '@/ui/words/planWords';
import { rollerWarnings } from '@/ui/words/rollerWords';

// There is nothing to draw before the plan has come from its worker.
const MissChart = dynamic(() => import('./MissChart').then((m) => m.MissChart), { ssr: false });

/** A plan with the way that is looked at and what it was made from. */
export interface PlanShown {
  readonly planned: PlanWithCurves;
  readonly chosen: Strategy;
  readonly request: PlanRequest;
}

/** The one sentence, and how the plan stands against what is allowed. */
export function PlanAnswer({
  shown,
  name,
  refused,
  readable,
  unit,
}: {
  shown: PlanShown | null;
  name: string;
  /** Why there is no plan. */
  refused: string | null;
  /** Whether every figure could be read. */
  readable: boolean;
  unit: LengthUnit;
}) {
  const waiting = readable ? 'Planning the run …' : 'Some figures need another look; they are marked below.';
  const fit = shown && planFit(shown.chosen, shown.planned.expected, shown.request.toleranceMm);
  return (
    <div className="answer-row">
      <h1 className="answer" aria-live="polite">
        {shown
          ? planAnswer(
              shown.planned.plan,
              shown.chosen,
              shown.planned.expected,
              shown.request.toleranceMm,
              name,
              unit,
            )
          : (refused ?? waiting)}
      </h1>
      {fit !== null && SAID_IN_THE_SENTENCE[fit] === undefined && <PlanTag fit={fit} />}
    </div>
  );
}

/** The sentence says so itself. */
const SAID_IN_THE_SENTENCE: Partial<Record<keyof typeof PLAN_FITS, true>> = {
  'over-at-first': true,
  breaks: true,
};

const TAG = {
  keeps: 'tag-plumb',
  'over-at-first': 'tag-leaning',
  close: 'tag-leaning',
  breaks: 'tag-out-of-plumb',
} as const;

const PlanTag = ({ fit }: { fit: keyof typeof PLAN_FITS }) => (
  <span className={`tag ${TAG[fit]} flex-shrink-0`}>{PLAN_FITS[fit]}</span>
);

/** The roll as it will lie, what its rollers leave, and how far drift takes the cuts. */
export function PlanPictures({
  planned,
  chosen,
  request,
  setup,
  rowsShown,
  onRows,
  unit,
}: PlanShown & {
  setup: Setup;
  rowsShown: number;
  onRows: ((rows: number) => void) | null;
  unit: LengthUnit;
}) {
  const { imposition } = planned.plan;
  return (
    <>
      <RollDrawing
        imposition={imposition}
        sections={chosen.sections}
        markRoomMm={request.markRoomMm}
        leadMm={request.leadMm}
        tailMm={request.tailMm}
        printableWidthMm={request.printableWidthMm}
        mediaWidthMm={Math.max(setup.sheetWidthMm, request.printableWidthMm)}
        marks={setup.marks}
        rollers={setup.roll}
        bobFirst={setup.bobFirst}
        current={null}
        unit={unit}
      />
      {setup.marks &&
        rollerWarnings(rollerRoom(setup.marks, setup.roll), setup.roll.rollerMm, unit).map((words) => (
          <p key={words} className="notice mb-0">
            {words}
          </p>
        ))}
      <MissChart
        strategy={chosen}
        profile={planned.profile}
        onePiece={planned.onePiece}
        toleranceMm={request.toleranceMm}
        rowPitchMm={imposition.itemHeightMm + imposition.gapMm}
        rows={imposition.rows}
        rowsShown={rowsShown}
        onRows={onRows}
        unit={unit}
      />
    </>
  );
}

/** What to type at the machine, and the step that freezes the plan. */
export function PlanDecision({
  planned,
  chosen,
  request,
  hasMarks,
  typingStep,
  busy,
  said,
  onFreeze,
  unit,
}: PlanShown & {
  hasMarks: boolean;
  typingStep: number;
  busy: boolean;
  /** What the last try was answered. */
  said: string;
  onFreeze: (spoilsAccepted: boolean) => void;
  unit: LengthUnit;
}) {
  const [accepted, setAccepted] = useState(false);
  const first = chosen.sections[0]!;
  const last = chosen.sections.at(-1)!;
  const { imposition } = planned.plan;
  return (
    <>
      <TypeThese
        section={first}
        lastSection={last.copies === first.copies ? null : last}
        imposition={imposition}
        markRoomMm={request.markRoomMm}
        printableWidthMm={request.printableWidthMm}
        hasMarks={hasMarks}
        unit={unit}
        step={typingStep}
      />
      {!chosen.keepsPromise && (
        <label className="d-flex gap-2 align-items-start">
          <FormCheckInput
            type="checkbox"
            className="mt-1 flex-shrink-0"
            checked={accepted}
            onChange={(event) => setAccepted(event.target.checked)}
          />
          <span>Run it although about {spoiledWords(chosen, imposition.copies)} would be spoiled</span>
        </label>
      )}
      <Button
        variant="main"
        disabled={busy || chosen.missing !== null || (!chosen.keepsPromise && !accepted)}
        onClick={() => onFreeze(!chosen.keepsPromise && accepted)}
      >
        Freeze this plan and start the run
      </Button>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </>
  );
}

/** Why it is planned so, and what would be better. */
export function PlanReasons({
  planned,
  chosen,
  request,
  sectionsOnRecord,
  startsWithin,
  onRecommended,
  unit,
}: PlanShown & {
  sectionsOnRecord: number;
  startsWithin: string | null;
  /** Null while the rows are the recommended ones. */
  onRecommended: (() => void) | null;
  unit: LengthUnit;
}) {
  const { plan, fromRoll } = planned;
  const reasons = [
    overAtFirstWords(planned.expected, request.toleranceMm, unit),
    startsWithin,
    betterIfPossible(plan, chosen, unit),
    leftoverWords(plan),
    plan.imposition.turned
      ? 'Items lie turned by 90° anticlockwise, seen from the printed side: it saves media.'
      : null,
    fromRoll === null || request.rollLeftMm === undefined
      ? null
      : yieldWords(fromRoll, request.rollLeftMm, unit),
  ].filter((words) => words !== null);
  return (
    <section className="panel">
      <p className="mb-2">{planReason(plan, chosen, request.promise, sectionsOnRecord)}</p>
      {reasons.map((words) => (
        <p key={words} className="mb-2">
          {words}
        </p>
      ))}
      {onRecommended && (
        <Button variant="link" className="p-0" onClick={onRecommended}>
          Back to the recommended rows
        </Button>
      )}
    </section>
  );
}
