import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="work" id="work">
      <title>Nothing here · Red Plumb</title>
      <h1 className="answer">There is nothing at this address.</h1>
      <p>
        A sheet, a session or a rig of this number is not in this shop’s records.{' '}
        <Link href="/">Back to the bench</Link>.
      </p>
    </main>
  );
}
