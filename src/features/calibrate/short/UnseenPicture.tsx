/** A sheet of which the middle was seen and the corners were not. */
export function UnseenPicture({ seen, corners, plumb }: { seen: string; corners: string; plumb: boolean }) {
  const places = [
    [40, 34],
    [160, 34],
    [40, 206],
    [160, 206],
  ] as const;
  return (
    <svg
      viewBox="0 0 300 240"
      width="100%"
      role="img"
      aria-label={`Seen in the middle: ${seen}. Not seen in the corners: ${corners}.`}
      style={{ maxHeight: 300 }}
    >
      <rect x="14" y="6" width="172" height="228" fill="var(--rp-paper)" stroke="var(--rp-rule)" />
      {places.map(([x, y]) => (
        <g key={`${x} ${y}`}>
          <circle cx={x} cy={y} r="15" fill="none" stroke="var(--rp-ink)" strokeDasharray="2 4" />
          <text x={x} y={y} dy="0.36em" textAnchor="middle" fontSize="15" fill="var(--rp-ink)">
            ?
          </text>
        </g>
      ))}
      <circle
        cx="100"
        cy="120"
        r="20"
        fill="none"
        stroke={plumb ? 'var(--rp-ok)' : 'var(--rp-ink)'}
        strokeWidth="3"
      />
      <path
        d={plumb ? 'M90 121l7 7 13-15' : 'M92 112l16 16M108 112l-16 16'}
        fill="none"
        stroke={plumb ? 'var(--rp-ok)' : 'var(--rp-ink)'}
        strokeWidth="3.4"
      />
      {[
        ['seen', seen, 112],
        ['not seen', corners, 26],
      ].map(([words, figure, y]) => (
        <text key={words as string} x="198" y={y as number} fontSize="14" fill="var(--rp-ink)">
          <tspan>{words}</tspan>
          <tspan x="198" dy="19" fontWeight="700">
            {figure}
          </tspan>
        </text>
      ))}
    </svg>
  );
}
