import { FORMAT_WORDS, FORMATS } from '@/core/drawing/formats';

import { svgRefusalText, type SvgRefusal } from '../svg';

import type { FileRefusal } from './report';

/** What is wrong with a cut file and what would be right. */
export function fileRefusalText(refusal: FileRefusal): string {
  switch (refusal.code) {
    case 'empty':
      return 'The file is empty. Save it again from the program that made it.';
    case 'file-too-large':
      return `The file has ${Math.round(refusal.bytes / 1048576)} MB; at most ${refusal.limit / 1048576} MB can be corrected. Split it into parts.`;
    case 'binary':
      return `This is a binary file. Save the cut lines as a text: ${FORMAT_WORDS}, DXF in its ASCII form.`;
    case 'unknown-format':
      return `The file begins with “${refusal.begins}”, which is no ${FORMAT_WORDS}. Save the cut lines as one of these.`;
    case 'beyond-horizon':
      return 'The file reaches so far beyond the work area that this correction does not hold there. Move the drawing onto the sheet.';
    case 'out-of-reach':
      return `Something in the file lies more than ${refusal.limitMm / 1e6} km from its origin, or is no figure at all. Remove it, or move the drawing onto the sheet.`;
    case 'too-fine':
      return `Its curves would become more than ${refusal.limit} short lines, because ${FORMATS[refusal.to].label} is written with lines only. Split the file, or have it written as SVG.`;
    case 'too-small':
      return `All of it is smaller than ${refusal.resolutionMm} mm, the smallest step of this format. Is its unit right?`;
    case 'not-dxf':
      return `Line ${refusal.line} of the DXF file should be a group code, a whole number, and is “${refusal.found}”. Save it again as ASCII DXF.`;
    case 'cut-short':
      return 'The DXF file stops in the middle: its end (EOF) is missing. Copy or save it again.';
    case 'bad-figure':
      return 'entity' in refusal
        ? `In ${refusal.entity.slice(0, 30)}, group ${refusal.group} is “${refusal.value}”, which is not a usable figure. Mend it or save the file again.`
        : `After ${refusal.command.slice(0, 4)} stands “${refusal.value}”, which is not a usable figure. Mend it or save the file again.`;
    case 'block-loop':
      return `Block “${refusal.name}” is drawn inside itself or nested too deep. Explode it and save the file again.`;
    case 'too-many-entities':
      return `The file draws more than ${refusal.limit} entities. Split it into parts.`;
    case 'not-hpgl':
      return `“${refusal.found}” is not an HPGL command. Choose an HPGL file, or save it again.`;
    case 'not-understood':
      return `The file uses ${refusal.command}: ${refusal.why}.`;
    case 'too-many-points':
      return `The file has more than ${refusal.limit} points. Split it into parts.`;
    case 'nothing-to-cut':
      if (refusal.uncut > 0)
        return `Nothing in this file is to be cut: ${refusal.uncut === 1 ? 'its only line is' : `all of its ${refusal.uncut} lines are`} hidden, switched off or drawn with nothing. Show what is to be cut and save it again.`;
      return 'There is no line, curve or shape to cut in this file. Convert text and images to paths first.';
    default:
      return svgRefusalText(refusal satisfies SvgRefusal);
  }
}
