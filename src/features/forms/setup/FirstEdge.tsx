'use client';

import FormCheckInput from 'react-bootstrap/FormCheckInput';
import { useState, useTransition } from 'react';

import { ORIENTATION_WORDS } from '@/core/proof';

import { keeping, whyNotDone } from '@/features/forms/keeping';

import { firstEdgeIs } from '../acts/actions';

const ANSWERS = [
  [true, 'the edge with the plumb bob'],
  [false, 'the other edge'],
] as const;

/** The one question that ties near and far to the printer: asked at the first print, kept with the rig. */
export function FirstEdge({ setupId, bobFirst }: { setupId: string; bobFirst: boolean | null }) {
  const [pending, start] = useTransition();
  const [said, setSaid] = useState('');
  const choose = (value: boolean): void =>
    start(async () => {
      const given = { setupId, bobFirst: value };
      const done = await keeping(['first edge', given], (stamp) => firstEdgeIs(given, stamp));
      setSaid(done.ok ? '' : whyNotDone(done));
    });
  return (
    <fieldset className="mt-2" disabled={pending}>
      <legend className="fs-6 mb-1">Which edge came out of the printer first?</legend>
      <div className="d-flex flex-wrap gap-3">
        {ANSWERS.map(([value, words]) => (
          <label key={words} className="d-flex gap-2 align-items-center" style={{ minHeight: 44 }}>
            <FormCheckInput
              type="radio"
              className="mt-0"
              name={`first-edge-${setupId}`}
              checked={bobFirst === value}
              onChange={() => choose(value)}
            />
            {words}
          </label>
        ))}
      </div>
      <p className="small-print mb-0">{ORIENTATION_WORDS}</p>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </fieldset>
  );
}
