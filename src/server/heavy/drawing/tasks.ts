import { decodePicture, pictureHead } from '@/server/artwork/decode';
import { artPng, previewPng, printedPng, rawPng } from '@/server/artwork/encode';
import { printSeen } from '@/server/artwork/printSeen';
import { asPicture } from '@/server/artwork/vector';

/** What decodes and draws files from outside, by name: done in a process that can be ended. Plain values in and out. */
export const DRAWING = {
  pictureHead,
  decodePicture,
  asPicture,
  printSeen,
  artPng,
  rawPng,
  printedPng,
  previewPng,
} as const;

export type DrawingName = keyof typeof DRAWING;
export type DrawingInput<N extends DrawingName> = Parameters<(typeof DRAWING)[N]>;
export type DrawingOutput<N extends DrawingName> = Awaited<ReturnType<(typeof DRAWING)[N]>>;
