import type { ComponentProps } from 'react';

import type { CorrectionWay } from '@/core/setup';
import { OwnPageForm } from '@/features/forms/setup/OwnPageForm';
import { Fold } from '@/ui/Fold';

import type { PushView, SettingView } from '../settingView';

/** What to type, huge; what is pushed to see which way it goes is dotted. */
export function WhatToDo({
  way,
  settings,
  pushes,
  ownPage,
}: {
  way: CorrectionWay;
  settings: readonly SettingView[];
  pushes: readonly PushView[];
  ownPage: ComponentProps<typeof OwnPageForm>;
}) {
  if (way === 'machine-page') return <RunItsPage {...ownPage} />;
  if (way === 'file')
    return (
      <section className="panel">
        <p className="mb-0">Leave the machine’s figures as they are and cut with the corrected file.</p>
      </section>
    );
  const rows = way === 'push' ? [...settings.filter((s) => s.changed), ...pushes] : settings;
  return (
    <section className="panel paper type-these">
      {rows.map((s) => (
        <div key={s.id} className={`type-line${'ways' in s ? ' pushed' : ''}${s.changed ? '' : ' stays'}`}>
          <strong>{s.name}</strong>
          {s.changed && (
            <>
              <s className="mono from">
                <span className="visually-hidden">from </span>
                {s.from}
              </s>
              <span className="arrow" aria-hidden="true">
                →
              </span>
            </>
          )}
          <span className="mono to" data-testid={`to-${s.name}`}>
            {s.changed && <span className="visually-hidden">to </span>}
            {s.to}
            <span className="unit"> {s.unit}</span>
          </span>
          <span className="moves">
            {s.moves}
            {s.changed && s.how.length > 0 && <span className="small-print d-block">{s.how.join(' ')}</span>}
          </span>
          {s.changed && s.note && <p className="note">{s.note}</p>}
          {s.clamped && <p className="notice note">{s.clamped}</p>}
        </div>
      ))}
    </section>
  );
}

/** The machine does it by itself: what was picked on its page is noted, and the proof tells. */
function RunItsPage(ownPage: ComponentProps<typeof OwnPageForm>) {
  return (
    <section className="panel">
      <p>
        Run the calibration on the machine’s own page, as its manual says, while the sheet stays loaded. Then
        cut the next set and read it here: it tells whether it worked.
      </p>
      <Fold name="correct-own-page" words="What was picked on its page">
        <OwnPageForm {...ownPage} />
      </Fold>
    </section>
  );
}
