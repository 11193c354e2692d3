import sharp from 'sharp';

/** A jar label of the island apiary, drawn here: a hexagon of honey with a smaller one in it, on white. */
export function jarLabel(): Promise<Buffer> {
  const hexagon = (radius: number): string =>
    Array.from({ length: 6 }, (_, i) => {
      const at = (Math.PI / 3) * i;
      return `${300 + radius * Math.cos(at)},${300 + radius * Math.sin(at)}`;
    }).join(' ');
  const stripes = [205, 265, 325]
    .map((y) => `<rect x="190" y="${y}" width="220" height="34" rx="17" fill="#6b3f10"/>`)
    .join('');
  return sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="600"><rect width="600" height="600" fill="#ffffff"/><polygon points="${hexagon(280)}" fill="#d9902f"/><polygon points="${hexagon(230)}" fill="#f3c46b"/>${stripes}</svg>`,
    ),
  )
    .png()
    .toBuffer();
}
