/* A drawn picture as a file: its colours and letters written into it, so that it looks the same anywhere. */

const WRITTEN = ['fill', 'stroke', 'font-family', 'font-size', 'font-weight'] as const;
/** Dots of a PNG for each unit of the drawing. */
const PNG_SCALE = 2;

/** The picture as a document of its own. */
export function svgText(picture: SVGSVGElement): string {
  const copy = picture.cloneNode(true) as SVGSVGElement;
  const drawn = [...picture.querySelectorAll('*')];
  [...copy.querySelectorAll('*')].forEach((element, i) => {
    const style = getComputedStyle(drawn[i]!);
    for (const name of WRITTEN) element.setAttribute(name, style.getPropertyValue(name));
    element.removeAttribute('style');
    element.removeAttribute('class');
  });
  const { width, height } = picture.viewBox.baseVal;
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  copy.removeAttribute('class');
  const paper = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  paper.setAttribute('width', String(width));
  paper.setAttribute('height', String(height));
  paper.setAttribute('fill', getComputedStyle(picture).backgroundColor);
  copy.prepend(paper);
  return new XMLSerializer().serializeToString(copy);
}

export function saveSvg(picture: SVGSVGElement, name: string): void {
  save(new Blob([svgText(picture)], { type: 'image/svg+xml' }), `${name}.svg`);
}

export async function savePng(picture: SVGSVGElement, name: string): Promise<void> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svgText(picture))}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = PNG_SCALE * image.width;
  canvas.height = PNG_SCALE * image.height;
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  canvas.toBlob((blob) => blob && save(blob, `${name}.png`), 'image/png');
}

function save(content: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
