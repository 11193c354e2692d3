/** @jest-environment jsdom */
import '@test/dom';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { planRoll, type PlanWithCurves, type StrategyName } from '@/core/layout';
import { jobOf, planRequestSchema } from '@/core/layout/planShape';
import { filmNode } from '@test/rolls';

import { MissChart } from './MissChart';
import { PlanAnswer, PlanDecision, PlanReasons, type PlanShown } from './PlanShown';

const QUIET = { wanderMm2PerM: 0.002, creepVarMm2PerM2: 0.001, creepVar: 0.0004 };
const KNOWN = { along: [filmNode(QUIET)], across: [filmNode({ ...QUIET, creepMmPerM: 0 })] };

/** 46 hull numbers, four across, as they would be planned. */
function planned(more: object = {}, name: StrategyName = 'sections'): PlanShown {
  const request = planRequestSchema.parse({
    ...{ item: { widthMm: 300, heightMm: 183.4 }, copies: 46, gapMm: 3.5, printableWidthMm: 1315 },
    ...{ rowsPerSection: 5, ...more },
  });
  const plan = planRoll(jobOf(request), KNOWN, 96, {
    ...{ registers: true, bothEnds: true, longestMm: null, everyMm: null },
  });
  if (!plan.ok) throw new Error(plan.refusal.code);
  const whole: PlanWithCurves = {
    ...{ plan: plan.value, chosen: name, expected: { untilCheckedMm: 0.41, thenMm: 0.07 } },
    ...{ profile: [], onePiece: [], ways: [], fromRoll: null },
  };
  return { planned: whole, chosen: plan.value.strategies.find((s) => s.name === name)!, request };
}

test.each([
  ['a plan', planned(), null, true, /^Cut 46 hull numbers in 3 sections of 5 rows\./],
  ['no plan, with the reason', null, 'The item is wider than the media.', true, /^The item is wider/],
  ['waiting', null, null, true, /^Planning the run …$/],
  [
    'figures that cannot be read',
    null,
    null,
    false,
    /^Some figures need another look; they are marked below\.$/,
  ],
] as const)('the first sentence: %s', (_, shown, refused, readable, words) => {
  render(<PlanAnswer {...{ shown, refused, readable, name: 'hull numbers', unit: 'mm' }} />);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent(words);
  expect(screen.queryByText(/^(Within|Close to|Over until|Spoils)/) !== null).toBe(shown !== null);
  // How the setup stands is said of the setup alone.
  expect(screen.queryByText(/^(Plumb|Leaning|Out of plumb)$/)).toBeNull();
});

const decide = (shown: PlanShown, more: Partial<Parameters<typeof PlanDecision>[0]> = {}) => {
  const onFreeze = jest.fn();
  render(
    <PlanDecision
      {...shown}
      {...{ hasMarks: true, typingStep: 1, busy: false, said: '', onFreeze, unit: 'mm' }}
      {...more}
    />,
  );
  return { onFreeze, button: screen.getByRole('button', { name: /^Freeze this plan/ }) };
};

test('a plan that keeps its promise is frozen with one press, and asks nothing', async () => {
  const { onFreeze, button } = decide(planned());
  expect(screen.queryByRole('checkbox')).not.toBeInTheDocument();
  await userEvent.setup().click(button);
  expect(onFreeze).toHaveBeenCalledWith(false);
});

test('one that spoils some waits until somebody says that they accept it', async () => {
  const user = userEvent.setup();
  const { onFreeze, button } = decide(planned({ toleranceMm: 0.05 }));
  expect(button).toBeDisabled();
  await user.click(screen.getByRole('checkbox', { name: /^Run it although about .* would be spoiled$/ }));
  await user.click(button);
  expect(onFreeze).toHaveBeenCalledWith(true);
});

test('nothing is frozen twice, nor what lacks something; what was answered is said', () => {
  const { button } = decide(planned(), { busy: true, said: 'Somebody else took the number.' });
  expect(button).toBeDisabled();
  expect(screen.getByRole('alert')).toHaveTextContent('Somebody else took the number.');
});

test('reasons: why it is so, and the way back to the recommended rows', async () => {
  const onRecommended = jest.fn();
  const given = { sectionsOnRecord: 96, startsWithin: 'A run starts within 0.3 mm.', unit: 'mm' } as const;
  const { rerender } = render(<PlanReasons {...planned()} {...given} onRecommended={onRecommended} />);
  expect(screen.getByText('A run starts within 0.3 mm.')).toBeInTheDocument();
  await userEvent.setup().click(screen.getByRole('button', { name: 'Back to the recommended rows' }));
  expect(onRecommended).toHaveBeenCalledTimes(1);
  rerender(<PlanReasons {...planned()} {...given} onRecommended={null} />);
  expect(screen.queryByRole('button')).not.toBeInTheDocument();
});

test('the chart’s slider does what dragging does, and its table has every section', () => {
  const { chosen, request } = planned();
  const onRows = jest.fn();
  const profile = [0, 300, 600, 900].map((yMm, i) => ({ yMm, r95Mm: 0.1 * i, starts: i % 2 === 0 }));
  render(
    <MissChart
      strategy={chosen}
      {...{ profile, onePiece: profile, toleranceMm: request.toleranceMm, rowPitchMm: 186.9, rows: 12 }}
      {...{ rowsShown: 5, onRows, unit: 'mm' }}
    />,
  );
  expect(screen.getByRole('img', { name: /at most .* of 0\.50 mm allowed/ })).toBeInTheDocument();
  const slider = screen.getByRole('slider', { name: /Rows a section/ });
  expect(slider).toHaveAttribute('max', '12');
  fireEvent.change(slider, { target: { value: '7' } });
  expect(onRows).toHaveBeenCalledWith(7);
  const table = screen.getByText('The figures, section by section').closest('details')!;
  expect(within(table).getAllByRole('row', { hidden: true })).toHaveLength(1 + chosen.sections.length);
});

test('where there is nothing to drag the chart has no slider', () => {
  const { chosen } = planned({}, 'one-piece');
  const profile = [{ yMm: 0, r95Mm: 0.1, starts: true }];
  render(
    <MissChart
      strategy={chosen}
      {...{ profile, onePiece: [], toleranceMm: 0.5, rowPitchMm: 186.9, rows: 12, rowsShown: 12 }}
      {...{ onRows: null, unit: 'in' }}
    />,
  );
  expect(screen.queryByRole('slider')).not.toBeInTheDocument();
});
