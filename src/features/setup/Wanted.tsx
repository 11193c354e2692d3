import type { Setup } from '@/server/setups/setup';
import { noFiguresWords } from '@/ui/words/settingWords';

import { wantedFigures } from './setup.view';

/** What its machines have to show for it, large, and what they show instead. */
export function Wanted({ setup }: { setup: Setup }) {
  const figures = wantedFigures(setup);
  if (figures.length === 0) return <p className="panel mb-0">{noFiguresWords(setup.changeable)}</p>;
  const other = figures.some((f) => f.shows !== null);
  return (
    <section className="panel paper wanted" aria-label="What it wants of the machine">
      <h2>{other ? 'It wants' : 'The machine shows what it wants'}</h2>
      <div className="wanted-figures">
        {figures.map((f) => (
          <p key={f.id} className="mb-0">
            {f.name}, {f.unit}
            <br />
            <span className="mono" data-testid={`wants-${f.name}`}>
              {f.wants}
            </span>
            {f.shows !== null && (
              <span className="small-print d-block">
                shows <span data-testid={`shows-${f.name}`}>{f.shows}</span>
              </span>
            )}
          </p>
        ))}
      </div>
    </section>
  );
}
