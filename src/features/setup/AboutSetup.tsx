import { lengthText, plainLength, type LengthUnit } from '@/core/units';
import { setupState } from '@/core/verdict';
import type { BenchSetup } from '@/server/setups/bench';
import type { Setup } from '@/server/setups/setup';
import { PlumbGlyph } from '@/ui/pictures/PlumbGlyph';
import { StateTag } from '@/ui/StateTag';

/** What a setup is, and how it stands. */
export function AboutSetup({
  setup,
  onBench,
  loads,
  next,
  unit,
}: {
  setup: Setup;
  onBench: BenchSetup | null;
  /** How much its loads differ, and who says so. */
  loads: string;
  /** What the log expects of its next load; null while it tells nothing. */
  next: string | null;
  unit: LengthUnit;
}) {
  const stands = onBench && setupState(onBench);
  const known = stands?.state ? stands : null;
  const area = setup.workArea;
  const length = (mm: number): string => lengthText(mm, unit);
  return (
    <section className="panel">
      <div className="rig-card">
        <PlumbGlyph
          ratio={known?.ratio ?? null}
          size={110}
          label={
            known ? `${length(known.r95Mm)} of ${length(setup.toleranceMm)}` : (stands?.unknown ?? 'put away')
          }
        />
        <div>
          <StateTag state={known?.state ?? null} unknown={stands?.unknown ?? undefined} />
          <p className="mb-1 mt-2">
            {known ? (
              <>
                <span className="mono big">{length(known.r95Mm)}</span>
                <br />
                <span className="small-print">
                  95 of 100 cuts stay within this; {length(setup.toleranceMm)} allowed
                </span>
              </>
            ) : (
              <span className="small-print">{length(setup.toleranceMm)} allowed</span>
            )}
          </p>
        </div>
      </div>
      <dl className="facts mb-0">
        <dt>Work area</dt>
        <dd>
          {plainLength(area.x1 - area.x0, unit)} × {plainLength(area.y1 - area.y0, unit)}
        </dd>
        <dt>Marks</dt>
        <dd>
          {setup.marks === null
            ? 'none are read'
            : `${setup.marks.count} of ${plainLength(setup.marks.sizeMm, unit)}`}
        </dd>
        {setup.tool && (
          <>
            <dt>Tool</dt>
            <dd>{setup.tool.name}</dd>
          </>
        )}
        {setup.mat && (
          <>
            <dt>Mat</dt>
            <dd>
              {setup.mat.name}, {setup.mat.wear}
            </dd>
          </>
        )}
        {setup.mirrored && (
          <>
            <dt>Art</dt>
            <dd>printed reversed</dd>
          </>
        )}
        <dt>Loads</dt>
        <dd>{loads}</dd>
        {next && (
          <>
            <dt>Next load</dt>
            <dd>{next}</dd>
          </>
        )}
        <dt>Tray</dt>
        <dd>{setup.recipe.tray || 'not noted'}</dd>
      </dl>
    </section>
  );
}
