export default function Loading() {
  return (
    <main className="work" id="work" aria-busy="true">
      <p className="soft">One moment …</p>
    </main>
  );
}
