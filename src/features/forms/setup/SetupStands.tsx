import { STATE_WORDS, type SetupState } from '@/core/verdict';
import { PlumbGlyph } from '@/ui/pictures/PlumbGlyph';
import { StateTag } from '@/ui/StateTag';

/** How the setup in use stands: the same glyph and the same word wherever it is named. */
export function SetupStands({ stands }: { stands: SetupState }) {
  return (
    <span className="d-inline-flex align-items-center gap-2">
      <PlumbGlyph
        ratio={stands.ratio}
        size={30}
        label={stands.state ? STATE_WORDS[stands.state] : stands.unknown}
      />
      <StateTag {...stands} />
    </span>
  );
}
