import { sizeFindings, type Sizes } from './sizes';

const GOOD: Sizes = {
  sheet: { widthMm: 210, heightMm: 297 },
  workArea: { x0: 10, y0: 15, x1: 200, y1: 282 },
  driverPage: { widthMm: 210, heightMm: 297 },
  reachMm: 300,
  mat: { name: 'blue mat', grip: 'light', wear: 'used', widthMm: 300, heightMm: 300 },
  grip: 'light',
};

test.each<[string, Partial<Sizes>, readonly RegExp[]]>([
  ['all of it', {}, []],
  ['nothing told', { driverPage: null, reachMm: null, mat: null, grip: null }, []],
  ['letter in inches, seen in mm', { driverPage: { widthMm: 210.2, heightMm: 296.8 } }, []],
  [
    'a driver set to another page',
    { driverPage: { widthMm: 215.9, heightMm: 279.4 } },
    [/driver is set to 215\.9 × 279\.4 mm, the sheet is 210 × 297 mm/],
  ],
  ['a cutter that does not reach', { reachMm: 180 }, [/190 mm wide, the cutter reaches 180 mm/]],
  [
    'a mat that is too small and worn',
    { mat: { ...GOOD.mat!, widthMm: 200, wear: 'worn' } },
    [/stands over the mat blue mat, which is 200 × 300 mm/, /^The mat blue mat is worn/],
  ],
  ['a mat that holds too strongly', { mat: { ...GOOD.mat!, grip: 'strong' } }, [/may tear or curl/]],
  ['a mat that holds too little', { grip: 'strong' }, [/may shift under the tool/]],
])('sizes of %s', (_, more, wanted) => {
  const found = sizeFindings({ ...GOOD, ...more });
  expect(found).toHaveLength(wanted.length);
  wanted.forEach((pattern, i) => expect(found[i]).toMatch(pattern));
});
