import Button from 'react-bootstrap/Button';

/** The button under a form, and beside it what came of pressing it. */
export function KeepRow({
  words = 'Keep this',
  main = false,
  pending,
  said,
}: {
  words?: string;
  main?: boolean;
  pending: boolean;
  said: string;
}) {
  return (
    <div className="d-flex flex-wrap gap-3 align-items-center mt-3">
      <Button type="submit" variant={main ? 'main' : 'plain'} disabled={pending}>
        {words}
      </Button>
      <span role="status">{said}</span>
    </div>
  );
}
