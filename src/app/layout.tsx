import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import 'bootstrap/dist/css/bootstrap.min.css';
import '@/ui/styles/tokens.css';
import '@/ui/styles/frame.css';
import '@/ui/styles/pieces.css';
import '@/ui/styles/bench.css';
import '@/ui/styles/benchNarrow.css';
import '@/ui/styles/shop.css';
import '@/ui/styles/screens.css';
import '@/ui/styles/quiet.css';
import '@/ui/styles/folds.css';
import '@/ui/styles/firstRig.css';
import '@/ui/styles/short.css';
import '@/ui/styles/shortNarrow.css';
import '@/ui/styles/narrow.css';
import '@/ui/styles/print.css';
import '@/ui/styles/jobs.css';

import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';

import { remembered } from '@/server/base/context';
import { MarkHelp } from '@/features/frame/MarkHelp';
import { Rail } from '@/ui/Rail';

export const metadata: Metadata = {
  description: 'Print-and-cut calibration: read where the cut landed, be told what to type, prove it.',
};

/** The bench is dark where the system is, until somebody chooses. */
const AS_THE_SYSTEM = `(m=>{const d=()=>document.documentElement.dataset.bsTheme=m.matches?'dark':'light';d();m.addEventListener('change',()=>{if(!/(^|; )bench=/.test(document.cookie))d()})})(matchMedia('(prefers-color-scheme: dark)'))`;

export const dynamic = 'force-dynamic';

export default async function Layout({ children }: { children: ReactNode }) {
  const { theme } = await remembered();
  // The gate gives every answer a nonce; what stands here is run before anything is painted.
  const nonce = /'nonce-([^']+)'/.exec((await headers()).get('content-security-policy') ?? '')?.[1];
  return (
    <html lang="en" data-bs-theme={theme ?? 'light'} suppressHydrationWarning>
      {theme === null && (
        <head>
          <script
            nonce={nonce}
            suppressHydrationWarning
            dangerouslySetInnerHTML={{ __html: AS_THE_SYSTEM }}
          />
        </head>
      )}
      <body>
        <a href="#work" className="visually-hidden-focusable">
          Skip to the work
        </a>
        <div className="frame">
          <Rail help={<MarkHelp />} />
          <div>{children}</div>
        </div>
      </body>
    </html>
  );
}
