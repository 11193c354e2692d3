import Link from 'next/link';

/** Earlier and later pages of a list; nothing when there is only one. */
export function Pager({
  page,
  pages,
  href,
}: {
  /** From 1. */
  page: number;
  pages: number;
  href: (page: number) => string;
}) {
  if (pages < 2) return null;
  return (
    <nav className="d-flex gap-3 align-items-center mt-3 no-print" aria-label="Pages">
      {page > 1 && (
        <Link className="btn btn-plain" rel="prev" href={href(page - 1)}>
          Back a page
        </Link>
      )}
      <span>
        Page {page} of {pages}
      </span>
      {page < pages && (
        <Link className="btn btn-plain" rel="next" href={href(page + 1)}>
          On a page
        </Link>
      )}
    </nav>
  );
}
