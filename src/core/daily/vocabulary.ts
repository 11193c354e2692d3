/** By which door a cut file came to be corrected. */
export const FILE_WAYS = ['page', 'address', 'script', 'folder'] as const;
export type FileWay = (typeof FILE_WAYS)[number];
