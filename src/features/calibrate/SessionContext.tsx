import { currentPass, sheetName, type Session } from '@/server/sessions/session';
import { PlumbGlyph } from '@/ui/pictures/PlumbGlyph';

/** Rig, media and sheet in use; the state so far at the right of it. */
export function SessionContext({
  session,
  ratio,
  words,
}: {
  session: Session;
  ratio: number | null;
  words: string;
}) {
  const pass = currentPass(session);
  return (
    <>
      <strong>{session.setup.name}</strong>
      <span className="soft">
        {session.setup.media}, {sheetName(pass.sheet)}
        {session.setup.simulated && ', simulated rig'}
      </span>
      <span className="d-inline-flex align-items-center gap-2 ms-auto">
        <PlumbGlyph ratio={ratio} size={30} label={words} />
        <strong>{words}</strong>
      </span>
    </>
  );
}
