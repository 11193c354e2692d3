import { and, desc, eq, isNotNull, sql } from 'drizzle-orm';
import QRCode from 'qrcode';

import { formatsIn, frameMap } from '@/core/daily';
import { IDENTITY, type Affine, type Rect } from '@/core/geometry';
import { movesOnly } from '@/core/calibration';
import { accept, refuse, type Outcome } from '@/core/outcome';
import {
  buildProofSheet,
  cutLayer,
  layoutAreaOf,
  printLayer,
  proofRefusalText,
  RING_STEPS,
  ringChoice,
  stationsThatFit,
  type ProofSheet,
  type ProofSpec,
  type SheetTitle,
  type StationSet,
} from '@/core/proof';
import type { PageDrawing } from '@/core/drawing';
import { dateIn } from '@/clock/dates';
import { shopZone } from '@/server/shop/zone';
import { proofSheets } from '@/db/schema';
import { sheetGeometry } from '@/db/stored/sessions';

import type { Deps, UseCaseRefusal } from '@/server/base/deps';
import type { Setup } from '@/server/setups/setup';
import type { CutFormat } from '@/core/drawing/formats';
import { type SheetOptions } from './shapes';

export interface StoredSheet {
  readonly id: string;
  readonly number: number;
  readonly label: string;
  readonly geometry: ProofSheet;
  readonly setupId: string;
  readonly rigName: string;
  readonly mediaName: string;
  readonly address: string;
  readonly madeOn: string;
  readonly printedAt: Date | null;
}

/** “0147”: how a sheet is called. */
export const sheetLabel = (number: number): string => String(number).padStart(4, '0');

/** How a sheet is read, and whether somebody chose that. */
type HowRead = Pick<SheetOptions, 'ringStep' | 'readBy' | 'chosen'>;

/** 3 × 3 with a second set, or as much of it as the work area takes. */
export function defaultOptions(
  setup: Setup,
  unit: 'mm' | 'in',
  { ringStep, readBy, chosen }: HowRead = { ringStep: null, readBy: 'comb', chosen: false },
): SheetOptions {
  const step = unit === 'mm' ? 0.1 : 0.004;
  const stepMm = unit === 'mm' ? 0.1 : 0.1016;
  const area = layoutAreaOf(setup);
  const rings = ringStep === null ? null : ringChoice(ringStep, unit);
  const two = stationsThatFit(area, stepMm, true, rings);
  const one = stationsThatFit(area, stepMm, false, rings);
  const secondSet = two.columns >= 2 && two.rows >= 2;
  const fits = secondSet ? two : one;
  if (readBy === 'short' && Math.min(two.columns, two.rows) >= 1)
    return { ...SHORT, ...{ unit, step, stepMm, chosen } };
  return {
    ...{ columns: Math.min(3, fits.columns), rows: Math.min(3, fits.rows), secondSet },
    ...{ unit, step, stepMm, ringStep, rings, bothWays: false },
    ...{ readBy: readBy === 'short' ? 'comb' : readBy, chosen },
  };
}

const SHORT = {
  ...{ columns: 1, rows: 1, secondSet: true, bothWays: false, ringStep: null, rings: null },
  readBy: 'short',
} as const;

/**
 * How much a setup's sheet asks where nobody chose: two picks where only figures that move the cut are typed and a proof is
 * on record, since the log then knows the rest; else every term.
 */
const usuallyRead = ({ settings, changeable, standing }: Setup): HowRead['readBy'] =>
  (changeable === 'settings' || changeable === 'settings-and-file') &&
  settings.length > 0 &&
  settings.every((s) => s.directionKnown && movesOnly(s)) &&
  standing.r95Mm !== null
    ? 'short'
    : 'comb';

/** How a setup's newest printed sheet was read, and the rings that it had, in a unit: how its readers like to read. */
export async function readLastTime(deps: Deps, setup: Setup, unit: 'mm' | 'in'): Promise<HowRead> {
  const [row] = await deps.db
    .select({ geometry: proofSheets.geometry })
    .from(proofSheets)
    // A witness in a job's waste was no choice of how to read.
    .where(
      and(
        ...[eq(proofSheets.setupId, setup.id), isNotNull(proofSheets.printedAt)],
        sql`${proofSheets.geometry}->>'printedOn' is null`,
        // Nor is the one station of a check, nor a strip.
        sql`exists (select 1 from passes p join sessions s on s.id = p.session_id where p.sheet_id = ${proofSheets.id} and s.kind = 'calibration')`,
      ),
    )
    .orderBy(desc(proofSheets.number))
    .limit(1);
  const spec = row && sheetGeometry.read(row.geometry).spec;
  const rings = spec?.rings;
  const ringStep =
    (rings && RING_STEPS[unit].find((step) => ringChoice(step, unit).stepMm === rings.stepMm)) ?? null;
  const chosen = spec?.readBy !== undefined;
  const readBy = spec?.readBy ?? usuallyRead(setup);
  return { ringStep, readBy: readBy === 'rings' && ringStep === null ? 'comb' : readBy, chosen };
}

function specOf(setup: Setup, options: SheetOptions, seed: number): ProofSpec {
  return {
    sheetWidthMm: setup.sheetWidthMm,
    sheetHeightMm: setup.sheetHeightMm,
    workArea: setup.workArea,
    marks: setup.marks,
    columns: options.columns,
    rows: options.rows,
    secondSet: options.secondSet,
    unit: options.unit,
    stepMm: options.stepMm,
    rings: options.rings,
    ...(options.bothWays ? { bothWays: true } : {}),
    ...(options.readBy === 'comb' && !options.chosen ? {} : { readBy: options.readBy }),
    seed,
  };
}

/** Makes a sheet with the next number. */
export async function makeSheet(
  deps: Deps,
  setup: Setup,
  options: SheetOptions,
): Promise<Outcome<StoredSheet, UseCaseRefusal>> {
  const trial = buildProofSheet(specOf(setup, options, 0));
  if (!trial.ok) return refuse({ code: 'refused', message: proofRefusalText(trial.refusal) });
  const [row] = await deps.db
    .insert(proofSheets)
    .values({
      setupId: setup.id,
      geometry: trial.value,
      rigName: setup.name,
      mediaName: setup.media,
      address: '',
      createdAt: deps.now(),
      madeOn: longDate(deps.now(), (await shopZone(deps)).zone),
    })
    .returning();
  return writeGeometry(deps, setup, options, row!.id, row!.number);
}

/** Lays an unprinted sheet out anew, under the same number. */
export async function changeSheet(
  deps: Deps,
  setup: Setup,
  options: SheetOptions,
  sheetId: string,
): Promise<Outcome<StoredSheet, UseCaseRefusal>> {
  const sheet = await getSheet(deps, sheetId);
  if (!sheet) return refuse({ code: 'not-found', what: 'proof sheet' });
  if (sheet.printedAt)
    return refuse({
      code: 'refused',
      message: `Sheet ${sheet.label} has been printed and is frozen. Start a new sheet to change it.`,
    });
  return writeGeometry(deps, setup, options, sheet.id, sheet.number);
}

async function writeGeometry(
  deps: Deps,
  setup: Setup,
  options: SheetOptions,
  sheetId: string,
  number: number,
): Promise<Outcome<StoredSheet, UseCaseRefusal>> {
  const built = buildProofSheet(specOf(setup, options, number));
  if (!built.ok) return refuse({ code: 'refused', message: proofRefusalText(built.refusal) });
  const address = `${deps.origin}/s/${sheetLabel(number)}`;
  const [row] = await deps.db
    .update(proofSheets)
    .set({ geometry: built.value, address, rigName: setup.name, mediaName: setup.media })
    .where(eq(proofSheets.id, sheetId))
    .returning();
  return accept(toSheet(row!));
}

/** How a sheet’s cut files lie: as it was printed, or as its rig’s page says now. Null: as the sheet itself. */
export const sheetFileMap = (
  { printedAt, geometry }: Pick<StoredSheet, 'printedAt' | 'geometry'>,
  setup: Setup,
): Affine | null => (printedAt ? (geometry.fileMap ?? null) : fileMapOf(setup));

/** The formats in which its cut files can be had. */
export const sheetFormats = (sheet: Pick<StoredSheet, 'printedAt' | 'geometry'>, setup: Setup): CutFormat[] =>
  formatsIn(sheetFileMap(sheet, setup), wholeSheet(sheet));

export const wholeSheet = ({ geometry }: Pick<StoredSheet, 'geometry'>): Rect => ({
  ...{ x0: 0, y0: 0 },
  ...{ x1: geometry.spec.sheetWidthMm, y1: geometry.spec.sheetHeightMm },
});

/** File → sheet for a setup; null where its files lie as the sheet does, and while nobody told. */
export function fileMapOf(setup: Setup): Affine | null {
  const map = setup.fileFrame && frameMap(setup.fileFrame, setup);
  return map && JSON.stringify(map) !== JSON.stringify(IDENTITY) ? map : null;
}

export async function getSheet(deps: Deps, sheetId: string): Promise<StoredSheet | null> {
  const [row] = await deps.db.select().from(proofSheets).where(eq(proofSheets.id, sheetId));
  return row ? toSheet(row) : null;
}

export async function getSheetByNumber(deps: Deps, number: number): Promise<StoredSheet | null> {
  const [row] = await deps.db.select().from(proofSheets).where(eq(proofSheets.number, number));
  return row ? toSheet(row) : null;
}

const toSheet = (row: typeof proofSheets.$inferSelect): StoredSheet => ({
  id: row.id,
  number: row.number,
  label: sheetLabel(row.number),
  geometry: sheetGeometry.read(row.geometry),
  setupId: row.setupId,
  rigName: row.rigName,
  mediaName: row.mediaName,
  address: row.address,
  madeOn: row.madeOn ?? longDate(row.createdAt, 'UTC'),
  printedAt: row.printedAt,
});

const longDate = (at: Date, zone: string): string => dateIn(at, 'd MMMM yyyy', zone);

/** The print layer of a stored sheet. */
export function sheetPrintLayer(sheet: StoredSheet): PageDrawing {
  const code = QRCode.create(sheet.address, { errorCorrectionLevel: 'M' }).modules;
  const title: SheetTitle = {
    number: sheet.label,
    rig: sheet.rigName,
    media: sheet.mediaName,
    date: sheet.madeOn,
    address: sheet.address,
    qr: Array.from({ length: code.size }, (_, r) =>
      Array.from({ length: code.size }, (_, c) => Boolean(code.get(r, c))),
    ),
  };
  return printLayer(sheet.geometry, title);
}

export const sheetCutLayer = (sheet: StoredSheet, set: StationSet): PageDrawing =>
  cutLayer(sheet.geometry, sheet.label, set);
