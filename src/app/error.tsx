'use client';

import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';

/** What is shown when a page could not be made: it finds out whether the database is away or it is our fault. */
export default function ErrorPage({ error }: { error: Error & { digest?: string } }) {
  const [away, setAway] = useState<boolean | null>(null);
  /** What keeps the database from working, where it is not just away. */
  const [why, setWhy] = useState<string | null>(null);
  useEffect(() => {
    void fetch('/api/ready')
      .then(async (answer) => {
        const said = (await answer.json()) as { error?: { code: string; message: string } };
        if (said.error?.code === 'disk-full') setWhy(said.error.message);
        setAway(!answer.ok);
      })
      .catch(() => setAway(true));
  }, []);
  return (
    <main className="work" id="work">
      <title>This page could not be made · Red Plumb</title>
      <h1 className="answer">
        {away === null && 'This page could not be made. Nothing that was saved is lost.'}
        {away === true && (why ?? 'The database does not answer. Nothing that was saved is lost.')}
        {away === false &&
          'This page could not be made, and it is our fault. Nothing that was saved is lost.'}
      </h1>
      <p>
        {away === false
          ? `Try again; if it stays so, tell us this number: ${error.digest ?? 'none'}.`
          : why === null && 'Look whether “npm start” still runs, then try again.'}{' '}
        What you were typing is kept by this browser.
      </p>
      <Button variant="main" onClick={() => window.location.reload()}>
        Try again
      </Button>
    </main>
  );
}
