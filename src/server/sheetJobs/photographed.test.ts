import sharp from 'sharp';

import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { badge } from '@test/badge';
import { freshDeps } from '@test/database';

import { createJob } from './createJob';
import { lookAtJob } from './lookAtJob';
import { getJob } from './repository';
import { newJobSchema } from './shapes';

/* A logo held before a telephone: uneven light and grain of the stock are no print, and stop nothing. */

test.each([4, 8, 12])('grain of σ = %i and a corner that is darker: nothing stops it', async (sigma) => {
  const deps = await freshDeps(`photographed_${sigma}`);
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Desk rig', printer: `printer ${sigma}`, cutter: `cutter ${sigma}`, media: 'label sheet' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 8, marginNearMm: 8 },
    ...{ areaWidthMm: 194, areaHeightMm: 281, toleranceMm: 0.13, settings: [] },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const { setupId } = added.value;
  const size = { width: 1500, height: 1150, channels: 3 } as const;
  const noise = { type: 'gaussian', mean: 1.5 * sigma, sigma } as const;
  const grain = await sharp({ create: { ...size, background: '#000', noise } })
    .png()
    .toBuffer();
  const light = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="1500" height="1150"><defs><radialGradient id="g"><stop offset="0" stop-color="#000" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity="0.16"/></radialGradient></defs><rect width="1500" height="1150" fill="url(#g)"/></svg>',
  );
  const page = await badge().resize(1300).rotate(3, { background: '#fff' }).png().toBuffer();
  const bytes = await sharp({ create: { ...size, background: '#f4f2ee' } })
    .composite([
      { input: page, gravity: 'centre', blend: 'multiply' },
      { input: light },
      { input: grain, blend: 'difference' },
    ])
    .jpeg({ quality: 80 })
    .toBuffer();
  const job = newJobSchema.parse({
    ...{ setupId, name: 'badge', copies: 1, layout: { witness: false } },
    recipe: { size: { widthMm: 80 }, borderMm: 2 },
  });
  const made = await createJob(deps, 'KT', { art: { bytes, name: 'logo.jpg' }, job });
  if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  const look = await lookAtJob(
    deps,
    (await getJob(deps, made.value.jobId))!,
    (await getSetup(deps, setupId))!,
  );
  expect(look.findings.filter((f) => f.severity === 'stop')).toEqual([]);
  await deps.close();
});
