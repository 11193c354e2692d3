import Button from 'react-bootstrap/Button';

import type { useReadings } from './useReadings';

/** What was not kept and why, and what is still on its way. */
export function Unsaved({
  line: { refused, forgetRefused, unsaved, message },
}: {
  line: Pick<ReturnType<typeof useReadings>, 'refused' | 'forgetRefused' | 'unsaved' | 'message'>;
}) {
  return (
    <>
      {refused.length > 0 && (
        <div className="notice notice-bad mt-3" role="alert">
          {refused.map(({ reading, message: why }) => (
            <p key={`${reading.stationId} ${reading.axis}`} className="mb-1">
              {reading.stationId} {reading.axis} was not kept: {why}
            </p>
          ))}
          <Button variant="plain" onClick={forgetRefused}>
            I have seen it
          </Button>
        </div>
      )}
      <p className={unsaved > 0 ? 'notice notice-bad mt-3 mb-0' : 'small-print mt-3 mb-0'} role="status">
        {unsaved > 0
          ? `${unsaved} not saved yet. ${message ? `${message} It is tried again by itself.` : 'Saving …'}`
          : 'All saved.'}
      </p>
    </>
  );
}
