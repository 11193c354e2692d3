'use client';

/** What is shown when a page could not be made: nearly always the database is away. */
export default function ErrorPage() {
  return (
    <main className="work" id="work">
      <h1 className="answer">
        The page could not be made. The database may be away; nothing that was saved is lost.
      </h1>
      <p>
        Look whether “npm start” still runs, then try again. What you were typing is kept by this browser.
      </p>
      <button type="button" className="btn btn-main" onClick={() => window.location.reload()}>
        Try again
      </button>
    </main>
  );
}
