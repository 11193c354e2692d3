'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import InputGroup from 'react-bootstrap/InputGroup';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import { changedOver } from '@/features/forms/acts/actions';

import type { ChangeRow } from './setup.view';

const DEED_WORDS = { type: 'type it', leave: 'leave it', look: 'do not type: look that it shows' } as const;

/** What to type from and to, large enough to read from the machine; confirmed once. */
export function ChangeOverCard({
  setupId,
  rows,
  media,
  back,
}: {
  setupId: string;
  rows: readonly ChangeRow[];
  media: string;
  /** Where to go afterwards; undefined: to the setup. */
  back?: string | undefined;
}) {
  const router = useRouter();
  const [other, setOther] = useState(false);
  const [found, setFound] = useState<Readonly<Record<string, string>>>({});
  const [message, setMessage] = useState('');
  const [pending, start] = useTransition();
  const confirm = (): void =>
    start(async () => {
      const read = Object.entries(found)
        .filter(([, typed]) => typed.trim() !== '')
        .map(([id, typed]) => [id, Number(typed.trim().replace('−', '-').replace(',', '.'))] as const);
      const unread = read.find(([, value]) => !Number.isFinite(value));
      if (unread) {
        const { name } = rows.find((r) => r.id === unread[0])!;
        return setMessage(`Type what ${name} shows as a number, for example 0.85.`);
      }
      const input = {
        setupId,
        wanted: Object.fromEntries(rows.map((r) => [r.id, r.wanted])),
        found: Object.fromEntries(read),
      };
      const done = await keeping(['change over', input], (stamp) => changedOver(input, stamp));
      if (!done.ok) return setMessage(whyNotDone(done));
      router.push(back ?? `/setups/${setupId}`);
      router.refresh();
    });
  return (
    <section className="panel change-over">
      {rows.length === 0 && (
        <p>These machines take no figures. Load {media}, and cut with files that carry its correction.</p>
      )}
      {rows.map((r) => (
        <div key={r.id} className={`change-row change-${r.deed}`}>
          <div>
            <strong>{r.name}</strong>
            <br />
            <span className="small-print">
              {r.machine}: {DEED_WORDS[r.deed]}
            </span>
          </div>
          <div className="to-show mono">
            {r.deed === 'type' && (
              <>
                <span className="from">{r.from}</span> <span aria-hidden>→</span>{' '}
                <span className="visually-hidden">to </span>
              </>
            )}
            <span className="to" data-testid={`to-${r.name}`}>
              {r.to}
            </span>{' '}
            <span className="unit">{r.unit}</span>
          </div>
          {r.deed === 'type' && r.crossesZero && (
            <p className="notice mb-0">
              It crosses zero: mind the sign, from {r.from} to {r.to}.
            </p>
          )}
          {r.deed !== 'leave' && r.how.length > 0 && <p className="small-print mb-0">{r.how.join(' ')}</p>}
          {other && (
            <InputGroup className="no-print shown-instead">
              <InputGroup.Text as="label" htmlFor={`found-${r.id}`}>
                {r.name} showed
              </InputGroup.Text>
              <Form.Control
                id={`found-${r.id}`}
                className="mono"
                inputMode="decimal"
                placeholder={r.from}
                value={found[r.id] ?? ''}
                onChange={(e) => setFound({ ...found, [r.id]: e.target.value })}
              />
            </InputGroup>
          )}
        </div>
      ))}
      <div className="d-flex gap-2 flex-wrap mt-3 no-print">
        <Button variant="main" disabled={pending} onClick={confirm}>
          {rows.length === 0 ? 'It is loaded' : 'The machine shows them all'}
        </Button>
        {rows.length > 0 && !other && (
          <Button variant="plain" onClick={() => setOther(true)}>
            It showed something else
          </Button>
        )}
        <Button variant="plain" onClick={() => window.print()}>
          Print this card
        </Button>
      </div>
      {other && (
        <p className="small-print mt-2 mb-0 no-print">
          Note what it showed before you type: the log then knows since when it was off. Then type the figures
          above.
        </p>
      )}
      {message && (
        <p className="field-error mt-2 mb-0" role="alert">
          {message}
        </p>
      )}
    </section>
  );
}
