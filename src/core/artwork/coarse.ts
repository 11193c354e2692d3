/** With fewer pixels an inch a print looks coarse at arm’s length; common practice, no source. */
export const COARSE_DPI = 150;
