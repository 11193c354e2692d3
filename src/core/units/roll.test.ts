import { fromLongMm, longText, longToMm, rateFigure, rateText, signedRate, walkStretch } from './roll';

describe('long lengths and rates', () => {
  it.each([
    [8350, '8.35 m', '27.4 ft'],
    [12_440, '12.4 m', '40.8 ft'],
    [304.8, '0.30 m', '1.0 ft'],
  ] as const)('%d mm', (mm, metric, imperial) => {
    expect(longText(mm, 'mm')).toBe(metric);
    expect(longText(mm, 'in')).toBe(imperial);
    expect(longToMm(fromLongMm(mm, 'in'), 'in')).toBeCloseTo(mm, 9);
  });

  // One part in a thousand is 1 mm on 1 m and 0.012 in on 1 ft.
  it.each([
    [1, '1.00 mm per m', '0.0120 in per ft'],
    [-0.31, '0.31 mm per m', '0.0037 in per ft'],
  ] as const)('a rate of %d mm/m', (rate, metric, imperial) => {
    expect(rateText(rate, 'mm')).toBe(metric);
    expect(rateText(rate, 'in')).toBe(imperial);
  });

  it('signs and places follow what is asked', () => {
    expect(signedRate(0.5, 'mm', 1)).toBe('+0.500');
    expect(signedRate(-0.5, 'in')).toBe('−0.0060');
    expect(rateFigure(-0.001, 'mm')).toBe('0.00');
  });

  it('a walk over a yard is the root of its length smaller than over a metre', () => {
    expect(Math.sqrt(walkStretch('in').lengthM)).toBeCloseTo(0.95624, 5);
  });
});
