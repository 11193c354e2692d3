import { startOfRuns } from './runStart';

describe('how far out a run starts', () => {
  it.each([
    ['nothing is known', [], null, 0.3, 'assumed'],
    ['a calibration closed, two runs only', [0.9, 0.9], 0.12, 0.12, 'calibration'],
    ['three runs tell, whatever was calibrated', [0.1, -0.1, 0.1], 0.4, Math.sqrt(0.03 / 2), 'log'],
    ['a lucky record promises no less than 0.05 mm', [0, 0, 0.01], null, 0.05, 'log'],
    ['one that was never corrected counts 0.5 mm at most', [3, -2, 4], null, 0.5, 'log'],
  ] as const)('%s', (_, firsts, calibrated, sdMm, from) => {
    const start = startOfRuns(firsts, calibrated);
    expect(start.sdMm).toBeCloseTo(sdMm, 12);
    expect(start.from).toBe(from);
  });
});
