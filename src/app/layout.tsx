import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import 'bootstrap/dist/css/bootstrap.min.css';
import '@/ui/styles/tokens.css';
import '@/ui/styles/frame.css';
import '@/ui/styles/pieces.css';
import '@/ui/styles/bench.css';
import '@/ui/styles/shop.css';
import '@/ui/styles/screens.css';
import '@/ui/styles/narrow.css';
import '@/ui/styles/print.css';
import '@/ui/styles/jobs.css';

import type { Metadata } from 'next';
import type { ReactNode } from 'react';

import { preferences } from '@/server/base/context';
import { Rail } from '@/ui/Rail';

export const metadata: Metadata = {
  description: 'Print-and-cut calibration: read where the cut landed, be told what to type, prove it.',
};

export const dynamic = 'force-dynamic';

export default async function Layout({ children }: { children: ReactNode }) {
  const { theme } = await preferences();
  return (
    <html lang="en" data-bs-theme={theme}>
      <body>
        <a href="#work" className="visually-hidden-focusable">
          Skip to the work
        </a>
        <div className="frame">
          <Rail />
          <div>{children}</div>
        </div>
      </body>
    </html>
  );
}
