'use client';

/** What is shown when a page could not be made: nearly always the database is away. */
export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="work" id="work">
      <h1 className="answer">
        The page could not be made. The database may be away; nothing that was saved is lost.
      </h1>
      <p>
        Look whether “npm start” still runs, then try again. What you were typing is kept by this browser.
      </p>
      <button type="button" className="btn btn-main" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
