import { statfsSync } from 'node:fs';

/*
 * How much room the disk of our own database has. RED_PLUMB_DATA names its folder; a database that somebody else runs is on
 * a disk that we know nothing of.
 */

const MEGABYTE = 1024 * 1024;

/** PostgreSQL writes its log of changes in files of 16 MB: two of them, and what else a day’s work needs. */
const NEEDED_MB = 40;

export interface DiskRoom {
  readonly freeMb: number;
  readonly neededMb: number;
  readonly full: boolean;
}

/** The room there is; null where nobody knows. */
export function diskRoom(folder = process.env.RED_PLUMB_DATA): DiskRoom | null {
  if (!folder) return null;
  try {
    const { bavail, bsize } = statfsSync(folder);
    const freeMb = Math.floor((bavail * bsize) / MEGABYTE);
    return { freeMb, neededMb: NEEDED_MB, full: freeMb < NEEDED_MB };
  } catch {
    return null;
  }
}

/** Why nothing can be relied on to be saved, in words; null while there is room. */
export function diskFullWords(room: DiskRoom | null = diskRoom()): string | null {
  return room?.full
    ? `the disk is full: ${room.neededMb} MB are needed, ${room.freeMb} MB are free. Nothing that was saved is lost. Make room on it; it goes on by itself.`
    : null;
}
