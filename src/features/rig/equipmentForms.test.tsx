/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { keepCutter, keepMat, keepTool } from './actions';
import { CutterForm, MatForm, ToolForm } from './EquipmentForms';

jest.mock('./actions', () => ({ keepTool: jest.fn(), keepMat: jest.fn(), keepCutter: jest.fn() }));

const ACTIONS = [keepTool, keepMat, keepCutter] as unknown as jest.Mock[];
const sent = (): unknown => ACTIONS.flatMap((act) => act.mock.calls as unknown[][]).at(-1)?.[0];
const press = (name: string) => userEvent.setup().click(screen.getByRole('button', { name }));
const fill = async (label: string, text: string) => {
  const field = screen.getByLabelText(label);
  await userEvent.setup().clear(field);
  await userEvent.setup().type(field, text);
  return field;
};

beforeEach(() => {
  for (const act of ACTIONS) act.mockReset().mockResolvedValue({ ok: true, value: null });
});

test('a tool: metres are a number or nothing; once kept the form is empty for the next', async () => {
  render(<ToolForm rigId="r" unit="mm" />);
  const name = await fill('Tool', 'wide rotary');
  const metres = await fill('Metres run so far', 'a few');
  await press('Fit it');
  expect(screen.getByText(/Type metres as a number/)).toBeInTheDocument();
  expect(metres).toHaveValue('a few');
  expect(sent()).toBeUndefined();
  await fill('Metres run so far', '12,5');
  await userEvent.setup().selectOptions(screen.getByLabelText('Kind'), 'rotary');
  await press('Fit it');
  await waitFor(() => expect(name).toHaveValue(''));
  expect(sent()).toEqual({
    rigId: 'r',
    name: 'wide rotary',
    kind: 'rotary',
    holder: '',
    metresRun: 12.5,
  });
});

test.each([
  ['mm', '300', '12 in', 300, 304.8],
  ['in', '12', '300 mm', 304.8, 300],
] as const)(
  'a mat typed in %s, or in the other unit when it says so',
  async (unit, width, height, wide, long) => {
    render(<MatForm rigId="r" unit={unit} />);
    await fill('Mat', 'blue');
    await fill(`Width, ${unit}`, 'wide');
    await fill(`Length, ${unit}`, height);
    await press('Add it');
    expect(screen.getByText(/“wide” is not a length/)).toBeInTheDocument();
    await fill(`Width, ${unit}`, width);
    await press('Add it');
    const input = sent() as { widthMm: number; heightMm: number };
    expect(input.widthMm).toBeCloseTo(wide, 9);
    expect(input.heightMm).toBeCloseTo(long, 9);
  },
);

test('the cutter: an empty reach is none, empty lines are no steps; what the server refuses stands by its field', async () => {
  const equipment = { tools: [], mats: [], reachMm: 1370, startUp: ['lift the lid'] };
  render(<CutterForm rigId="r" equipment={equipment} unit="mm" />);
  await userEvent.setup().clear(screen.getByLabelText('The carriage reaches, mm'));
  await userEvent.setup().type(screen.getByLabelText(/switched on/), '{enter}{enter} put it online ');
  jest.mocked(keepCutter).mockResolvedValueOnce({
    ok: false,
    said: 'refused',
    message: 'Some figures need another look; they are marked.',
    fields: { startUp: 'At most 12 steps.' },
  });
  await press('Keep it');
  expect(await screen.findByText('At most 12 steps.')).toBeInTheDocument();
  await press('Keep it');
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('Kept.'));
  expect(sent()).toEqual({ rigId: 'r', reachMm: null, startUp: ['lift the lid', 'put it online'] });
});
