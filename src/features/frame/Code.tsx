import QRCode from 'qrcode';

/** An address as a QR code, for paper. */
export function Code({ address }: { address: string }) {
  const { data, size } = QRCode.create(address, { errorCorrectionLevel: 'M' }).modules;
  const dark = Array.from({ length: size * size }, (_, i) => i).filter((i) => data[i]);
  return (
    <svg viewBox={`-2 -2 ${size + 4} ${size + 4}`} width="26mm" height="26mm" role="img" aria-label={address}>
      <path
        fill="#000"
        shapeRendering="crispEdges"
        d={dark.map((i) => `M${i % size} ${Math.floor(i / size)}h1v1h-1z`).join('')}
      />
    </svg>
  );
}
