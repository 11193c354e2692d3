import type { SvgRefusal } from './elements';

/** What is wrong with a cut file and what would be right. */
export function svgRefusalText(refusal: SvgRefusal): string {
  switch (refusal.code) {
    case 'too-large':
      return `The file has ${Math.round(refusal.bytes / 1048576)} MB; at most ${refusal.limit / 1048576} MB can be corrected. Split it into parts.`;
    case 'not-xml':
      return `This is not a readable SVG file (${refusal.detail}). Save it again as plain SVG.`;
    case 'declares-entities':
      return 'The file declares entities that hold others or come from elsewhere; they are not expanded, for safety. Save it again as plain SVG.';
    case 'too-deep':
      return `The file nests more than ${refusal.limit} groups. Ungroup it and save it again.`;
    case 'too-many-elements':
      return `The file has more than ${refusal.limit} elements. Split it into parts.`;
    case 'not-svg':
      return `The file starts with <${refusal.rootName.slice(0, 40)}>, not <svg>. Choose an SVG cut file.`;
    case 'no-size':
      return 'The drawing has neither width and height nor a viewBox, so its size in mm is unknown. Set the page size and save it again.';
    case 'bad-value':
      return `In <${refusal.element.slice(0, 40)}>, ${refusal.attribute} is “${refusal.value.slice(0, 60)}”, which cannot be read. Mend it or save the file again as plain SVG.`;
    case 'use-loop':
      return `“${refusal.id.slice(0, 40)}” is drawn inside itself. Remove that copy and save the file again.`;
    case 'too-many-copies':
      return `The file draws more than ${refusal.limit} copies of its symbols. Split it into parts.`;
    case 'too-many-points':
      return `The file draws more than ${refusal.limit} points, copies included. Split it into parts.`;
    case 'path-too-long':
      return `One path of the file is longer than ${refusal.limit / 1048576} MB. Break it apart, so that every piece is a path of its own.`;
    case 'nothing-to-cut':
      return 'There is no line, curve or shape to cut in this file. Convert text and images to paths first.';
    default:
      return refusal satisfies never;
  }
}
