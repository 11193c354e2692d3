import { capital } from '@/core/units';
import type { FaultKind, KindOfFault } from '@/core/diagnosis';

export const FAULT_WORDS: Readonly<Record<FaultKind, string>> = {
  calibration: 'the machine is out: calibrate',
  slip: 'the media slipped',
  misread: 'a mark was misread',
  'print-scaled': 'the print was scaled',
  'skewed-load': 'the sheet lay askew',
  'art-moved': 'art or cut lines were moved after the other was made',
  'load-scatter': 'this load lies elsewhere, as the next may',
  none: 'nothing is wrong',
};

const SHOWN = 4;
/** Less likely ones are not worth a line. */
const LEAST = 0.02;
/** From here on it is said before anything is typed. */
const SAID_FIRST = 0.8;

/** Said before anything is typed when the fault is likely one that typing does not cure; else nothing. */
export function KindsNotice({ kinds }: { kinds: readonly KindOfFault[] }) {
  const [first] = kinds;
  if (!first || first.probability <= SAID_FIRST || first.kind === 'calibration' || first.kind === 'none')
    return null;
  return (
    <p className="notice m-0">
      Before you type: perhaps {FAULT_WORDS[first.kind]} ({percent(first.probability)}). {first.nextCheck}
    </p>
  );
}

/** The likely kinds of fault, with their evidence, one press away. */
export function KindsPanel({ kinds }: { kinds: readonly KindOfFault[] }) {
  return (
    <details className="working">
      <summary>What kind of fault is it?</summary>
      <dl className="mb-0">
        {kinds
          .filter((k, i) => i < SHOWN && k.probability >= LEAST)
          .map((k) => (
            <div key={k.kind} className="mb-2">
              <dt>
                {capital(FAULT_WORDS[k.kind])}, {percent(k.probability)}
              </dt>
              <dd className="mb-0">
                {k.evidence} <span className="soft">{k.nextCheck}</span>
              </dd>
            </div>
          ))}
      </dl>
    </details>
  );
}

const percent = (p: number): string => (p > 0.99 ? 'over 99 %' : `${Math.round(100 * p)} %`);
