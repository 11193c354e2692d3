import { eq } from 'drizzle-orm';

import { correctSvg, svgRefusalText, type SvgReport } from '@/core/formats/svg';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { correctedFiles, corrections } from '@/db/schema';

import type { Actor, Deps } from './deps';
import { affineSchema } from './schemas';

export type CorrectFileRefusal =
  { readonly code: 'no-such-correction' } | { readonly code: 'unreadable-file'; readonly message: string };

/** Corrects a cut file by a stored correction and keeps it in the log with what it was made from. */
export async function correctFileByStored(
  deps: Deps,
  actor: Actor,
  correctionId: string,
  restOnly: boolean,
  fileName: string,
  text: string,
): Promise<Outcome<{ svg: string; report: SvgReport }, CorrectFileRefusal>> {
  const [row] = await deps.db.select().from(corrections).where(eq(corrections.id, correctionId));
  if (!row) return refuse({ code: 'no-such-correction' });
  const transform = affineSchema.parse(restOnly ? row.restTransform : row.wholeTransform);
  const corrected = correctSvg(text, transform);
  if (!corrected.ok) return refuse({ code: 'unreadable-file', message: svgRefusalText(corrected.refusal) });
  const { svg, report } = corrected.value;
  await deps.db.insert(correctedFiles).values({
    correctionId,
    fileName: fileName.slice(0, 200),
    restOnly,
    transform,
    report,
    content: svg,
    madeBy: actor,
    madeAt: deps.now(),
  });
  return accept({ svg, report });
}
