'use client';

import Overlay from 'react-bootstrap/Overlay';
import Tooltip from 'react-bootstrap/Tooltip';

/** What stands above a word while it explains itself; loaded when the first one does. */
export default function WordTip({ target, id, text }: { target: HTMLElement; id: string; text: string }) {
  return (
    <Overlay
      show
      target={target}
      placement="top"
      transition={false}
      // Within the page's own landmarks, where reading aloud finds it.
      container={target.closest<HTMLElement>('main, header') ?? undefined}
    >
      <Tooltip id={id}>{text}</Tooltip>
    </Overlay>
  );
}
