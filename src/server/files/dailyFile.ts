import { createHash } from 'node:crypto';

import { and, desc, eq, isNotNull, isNull } from 'drizzle-orm';

import { dateIn } from '@/clock/dates';
import type { SettingUnit } from '@/core/correction';
import { dailyName, dailyRefusalText, type DailyFile, type FileWay, type Lies } from '@/core/daily';
import type { FileReport, MovedOutline } from '@/core/drawing/file';
import { affineMap, IDENTITY } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { sameFigure } from '@/core/setup';
import { correctedFiles, standingCorrections } from '@/db/schema';
import { answeredBefore, keep } from '@/server/base/act';
import { contentHash } from '@/server/base/contentHash';
import type { Actor, Deps } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';
import { shopZone } from '@/server/shop/zone';
import type { CutFormat } from '@/core/drawing/formats';

import { CANCELLED, NUMBER_TAKEN } from './correctFile';
import { fileOfThen, keepContent } from './keepFiles';

export interface DailyRequest {
  readonly setupId: string;
  readonly fileName: string;
  readonly text: string;
  readonly to: CutFormat | null;
  /** The file’s axes are the sheet’s, whatever the rig’s description says. */
  readonly own: boolean;
  /** It may be one that came out of here corrected. */
  readonly again: boolean;
  /** Layers of a DXF that are cut whatever their state. */
  readonly cutAll?: readonly string[];
  readonly cameBy: FileWay;
  readonly request?: string | undefined;
  /** Who asked may have cancelled while it was made: then it is not kept. */
  readonly asked?: AbortSignal | undefined;
}

/** A figure that the machine has to show while this file is cut. */
export interface MustShow {
  readonly name: string;
  readonly unit: SettingUnit;
  readonly step: number;
  readonly value: number;
  readonly shows: number;
  readonly differs: boolean;
}

export interface DailyAnswer {
  readonly fileId: string;
  readonly fileName: string;
  readonly content: string;
  readonly report: FileReport;
  readonly outlines: readonly MovedOutline[];
  readonly lies: Lies;
  /** Whether anything was changed in the file: not when the settings do it all. */
  readonly changed: boolean;
  readonly mustShow: readonly MustShow[];
}

export interface DailyRefused {
  readonly code:
    | 'no-such-setup'
    | 'off-the-bench'
    | 'unreadable-file'
    | 'where-it-lies'
    | 'corrected-already'
    | 'not-kept';
  readonly message: string;
}

const refused = (code: DailyRefused['code'], message: string) => refuse({ code, message });

/** What is kept as the answer: the rest stands with the file in the log. */
interface KeptDaily {
  readonly fileId: string;
  readonly mustShow?: readonly MustShow[];
}

const ACT = 'daily file';

/**
 * Corrects a cut file by what stands for its setup, on any day, and keeps it in the log. One use for the page, the
 * address, the script and the folder: the same file comes out of each, to the byte. Asked again under the number it had,
 * it answers as it did then, whatever stands now.
 */
export async function correctForSetup(
  deps: Deps,
  actor: Actor,
  given: DailyRequest,
): Promise<Outcome<DailyAnswer, DailyRefused>> {
  const { setupId, fileName, text, to, own, cutAll = [] } = given;
  const asked = contentHash(ACT, { setupId, fileName, text, to, own, cutAll });
  const before = await answeredBefore<KeptDaily>(
    { ...deps, asked },
    { act: ACT, subjectId: setupId, request: given.request },
  );
  if (before)
    return before.ok ? asAnsweredThen(deps, given, before.value) : refused('not-kept', NUMBER_TAKEN);
  const setup = await getSetup(deps, setupId);
  if (!setup) return refused('no-such-setup', 'No setup of this id is in the log.');
  if (setup.archived)
    return refused('off-the-bench', `${setup.media} is put away. Put it back on its rig’s page first.`);
  const sha256 = createHash('sha256').update(text, 'utf8').digest('hex');
  const twice = given.again ? null : await correctedBefore(deps, sha256);
  if (twice !== null) return refused('corrected-already', twice);
  const done = await heavy('correctDaily', {
    text,
    setup: {
      sheetWidthMm: setup.sheetWidthMm,
      sheetHeightMm: setup.sheetHeightMm,
      marks: setup.marks,
      frame: setup.fileFrame,
      fileTransform: setup.standing.fileTransform,
    },
    own,
    to,
    cutAll,
  });
  if (!done.ok)
    return refused(
      done.refusal.code === 'frame-unknown' ? 'where-it-lies' : 'unreadable-file',
      dailyRefusalText(done.refusal),
    );
  if (given.asked?.aborted) return refused('not-kept', CANCELLED);
  return keepDaily({ ...deps, asked }, actor, given, setup, done.value, sha256);
}

async function keepDaily(
  deps: Deps,
  actor: Actor,
  given: DailyRequest,
  setup: Setup,
  made: DailyFile,
  givenSha256: string,
): Promise<Outcome<DailyAnswer, DailyRefused>> {
  const fileName = dailyName(given.fileName, setup.media, made.report.to);
  const act = { act: ACT, subjectId: setup.id, request: given.request };
  const shows = mustShow(setup);
  const kept = await keep<KeptDaily>(deps, actor, act, async (inner) => {
    // Held until it is kept: what stands does not change under it.
    const [stands] = await inner.db
      .select({ id: standingCorrections.id })
      .from(standingCorrections)
      .where(and(eq(standingCorrections.setupId, setup.id), isNull(standingCorrections.replacedAt)))
      .for('update');
    if (stands?.id !== setup.standing.id)
      return refuse({
        code: 'stale',
        message: `What stands for ${setup.media} was replaced this moment. Give the file again.`,
      });
    const [row] = await inner.db
      .insert(correctedFiles)
      .values({
        setupId: setup.id,
        standingId: setup.standing.id,
        fileName,
        restOnly: true,
        ...(made.transform ? { transform: made.transform } : {}),
        lies: made.lies,
        cameBy: given.cameBy,
        report: made.report,
        givenSha256,
        sha256: await keepContent(inner, made.content),
        madeBy: actor,
        madeAt: deps.now(),
      })
      .returning({ id: correctedFiles.id });
    return accept({ fileId: row!.id, mustShow: shows });
  });
  if (!kept.ok)
    return refused('not-kept', kept.refusal.code === 'stale' ? kept.refusal.message : NUMBER_TAKEN);
  // Somebody sent the same at the same moment, and was first.
  if (kept.value.mustShow !== shows) return asAnsweredThen(deps, given, kept.value);
  return accept({
    fileId: kept.value.fileId,
    fileName,
    content: made.content,
    report: made.report,
    outlines: made.outlines,
    lies: made.lies,
    changed: made.transform !== null,
    mustShow: shows,
  });
}

/** The whole answer of then: file, name, report, figures to show. Only the outlines of its picture are drawn anew. */
async function asAnsweredThen(
  deps: Deps,
  { text, to, cutAll = [] }: DailyRequest,
  kept: KeptDaily,
): Promise<Outcome<DailyAnswer, DailyRefused>> {
  const then = await fileOfThen(deps, kept.fileId);
  if (!then.ok) return refused('not-kept', then.refusal);
  const { content, fileName, report, lies, transform, setupId } = then.value;
  const drawn = await heavy('correctFile', { text, map: affineMap(transform ?? IDENTITY), to, cutAll });
  return accept({
    fileId: kept.fileId,
    fileName,
    content,
    report,
    outlines: drawn.ok ? drawn.value.outlines : [],
    lies: lies!,
    changed: transform !== null,
    // Answers of before it was kept have what is shown now.
    mustShow: kept.mustShow ?? mustShow((await getSetup(deps, setupId))!),
  });
}

/** What the machine has to show while files of this setup are cut, and what it shows as far as the log knows. */
export const mustShow = (setup: Setup): MustShow[] =>
  setup.settings.map((s) => ({
    name: s.name,
    unit: s.unit,
    step: s.step,
    value: s.wanted,
    shows: s.value,
    differs: !sameFigure(s.value, s.wanted, s.step),
  }));

/** Words about a file that came out of here; null when it did not. Corrected twice, it would be off by as much again. */
async function correctedBefore(deps: Deps, sha256: string): Promise<string | null> {
  const [row] = await deps.db
    .select({ at: correctedFiles.madeAt, name: correctedFiles.fileName, by: correctedFiles.madeBy })
    .from(correctedFiles)
    .where(and(eq(correctedFiles.sha256, sha256), isNotNull(correctedFiles.transform)))
    .orderBy(desc(correctedFiles.madeAt))
    .limit(1);
  if (!row) return null;
  const day = dateIn(row.at, 'd MMM yyyy', (await shopZone(deps)).zone);
  return `This file was corrected already: it came out of here on ${day} as ${row.name}, made by ${row.by}. Corrected twice it would be off by as much again; give the file as it was drawn.`;
}
