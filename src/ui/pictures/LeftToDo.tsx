/**
 * How much of a sheet is read, or of a run is cut: stations as discs, sections as fields of the roll with the first at the
 * bottom, as they come out. What is done is full, what is left is dotted.
 */
export function LeftToDo({
  of,
  done,
  all,
}: {
  of: 'stations' | 'sections';
  done: number;
  /** At least 1. */
  all: number;
}) {
  const label = `${done} of ${all} ${of} ${of === 'stations' ? 'read' : 'cut'}`;
  // More than these are too small to count anyway.
  const many = Math.min(all, 25);
  const full = Math.round((done / all) * many);
  return of === 'stations' ? (
    <Stations label={label} full={full} many={many} />
  ) : (
    <Sections label={label} full={full} many={many} />
  );
}

interface Drawn {
  readonly label: string;
  readonly full: number;
  readonly many: number;
}

function Stations({ label, full, many }: Drawn) {
  const across = Math.ceil(Math.sqrt(many));
  const down = Math.ceil(many / across);
  const pitch = 54 / Math.max(across, down);
  return (
    <svg className="to-do" width={60} height={72} viewBox="0 0 60 72" role="img" aria-label={label}>
      <rect className="sheet" x="0.75" y="0.75" width="58.5" height="70.5" />
      {Array.from({ length: many }, (_, i) => (
        <circle
          key={i}
          className={i < full ? 'done' : 'left'}
          cx={30 + ((i % across) - (across - 1) / 2) * pitch}
          cy={36 + (Math.floor(i / across) - (down - 1) / 2) * pitch}
          r={pitch * 0.34}
        />
      ))}
    </svg>
  );
}

function Sections({ label, full, many }: Drawn) {
  const high = 70 / many;
  return (
    <svg className="to-do" width={60} height={72} viewBox="0 0 60 72" role="img" aria-label={label}>
      {Array.from({ length: many }, (_, i) => (
        <rect
          key={i}
          className={i < full ? 'done' : 'left'}
          x={14}
          y={71 - (i + 1) * high}
          width={32}
          height={Math.max(1, high - 1.5)}
        />
      ))}
    </svg>
  );
}
