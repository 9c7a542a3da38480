/** How photos fit the frame, by names. */
export const FITS = [
  ['auto', 'By shape'],
  ['whole', 'Whole picture'],
  ['fill', 'Filled frame'],
  ['free', 'Free'],
] as const
