import { OPEN_STAGES, type Stage } from '@/core/setup';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { passes, proofSheets, sessions } from '@/db/schema';
import type { Done, Deps } from '@/server/base/deps';
import { changeOverFirst } from '@/server/setups/mustType';
import { idSchema } from '@/server/base/shapes';

import { currentPass } from './session';
import { changeSheet, fileMapOf } from './sheets';
import { valuesOf } from './startSession';
import { sheetOptionsSchema } from './shapes';
import { sessionStep } from './step';

/* The walk of a session, step by step: print, read, prove, close. Each step is locked (`sessionStep`). */

export const setStage = (deps: Deps, sessionId: string, stage: Stage) =>
  deps.db.update(sessions).set({ stage }).where(eq(sessions.id, sessionId));

/** Lays out the unprinted sheet of a session anew. */
export const changeSessionSheet = sessionStep(
  z.object({ sessionId: idSchema, options: sheetOptionsSchema }),
  { act: 'lay out', allowed: OPEN_STAGES },
  async (inner, session, { options }): Done => {
    const changed = await changeSheet(inner, session.setup, options, currentPass(session).sheet.id);
    return changed.ok ? accept(null) : changed;
  },
);

/** “Printed and cut”: the sheet is frozen, and the settings of this moment belong to the pass. */
export const markPrinted = sessionStep(
  idSchema,
  { act: 'print', allowed: ['print', 'prove'] },
  async (inner, session, sessionId, actor): Done => {
    const pass = currentPass(session);
    // A set that has been read was cut before: what it was cut with is on record and stays so.
    if (pass.readings.length > 0)
      return refuse({
        code: 'stale',
        message: `Sheet ${pass.sheet.label} is on record as printed and cut already. Go on with its readings.`,
      });
    // Another medium may have been typed in since it was started. What a proof is cut with was typed for it.
    const wrong = pass.position === 1 ? changeOverFirst(session.setup) : null;
    if (wrong) return refuse(wrong);
    await inner.db
      .update(proofSheets)
      .set({
        printedAt: inner.now(),
        printedBy: actor,
        geometry: sql`${proofSheets.geometry} || ${JSON.stringify({ fileMap: fileMapOf(session.setup) })}::jsonb`,
      })
      .where(and(eq(proofSheets.id, pass.sheet.id), isNull(proofSheets.printedAt)));
    await inner.db
      .update(passes)
      .set({ settingsAtCut: valuesOf(session.setup), recipe: session.setup.recipe })
      .where(eq(passes.id, pass.id));
    await setStage(inner, sessionId, 'read');
    return accept(null);
  },
);
