import type { Mark, Scene } from '../../drawing';
import type { Drawing, DrawnPath } from '../drawing';

const LAYER = 'cut';

/** The lines of a scene as a drawing to cut; fills and words are not lines. */
export function sceneToDrawing(scene: Scene): Drawing {
  return {
    paths: scene.marks.flatMap(markPath),
    layers: [{ name: LAYER, colour: null }],
    page: { widthMm: scene.widthMm, heightMm: scene.heightMm },
    unitMm: 1,
  };
}

function markPath(mark: Mark): DrawnPath[] {
  const style = { layer: LAYER, colour: null, pen: null };
  switch (mark.kind) {
    case 'line':
      return [
        {
          ...style,
          start: mark.from,
          segments: [{ kind: 'lines', xy: [mark.to.x, mark.to.y] }],
          closed: false,
        },
      ];
    case 'ring': {
      const { centre, radiusMm: r } = mark;
      const u = { x: r, y: 0 };
      const v = { x: 0, y: r };
      return [
        {
          ...style,
          start: { x: centre.x + r, y: centre.y },
          segments: [{ kind: 'arc', centre, u, v, from: 0, sweep: 2 * Math.PI }],
          closed: true,
        },
      ];
    }
    case 'polygon': {
      const [start, ...rest] = mark.points;
      if (!start) return [];
      return [
        { ...style, start, segments: [{ kind: 'lines', xy: rest.flatMap((p) => [p.x, p.y]) }], closed: true },
      ];
    }
    case 'disc':
    case 'text':
      return [];
    default:
      return mark satisfies never;
  }
}
