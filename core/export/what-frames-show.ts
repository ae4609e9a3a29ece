/** What frames show: the picture, how far everything is, where a plane is, alone or as far as it is seen, how it moves. */
export const PASSES = ['picture', 'depth', 'matte', 'matte-seen', 'motion'] as const;
export type PassName = (typeof PASSES)[number];

/** Passes of numbers, which need 16 bits and may leave as floats; the others are of 8 bits. */
export const isNumberPass = (pass: PassName): boolean => pass === 'depth' || pass === 'motion';
/** Passes that are of one plane each. */
export const isPlanePass = (pass: PassName): boolean => pass !== 'picture' && pass !== 'depth';

/** As what a pass of numbers leaves: 16-bit PNG, or OpenEXR of 16- or 32-bit floats. */
export const DEPTH_FILES = ['png', 'exr-half', 'exr-float'] as const;
export type DepthFile = (typeof DEPTH_FILES)[number];

/** What becomes of chosen planes: they are drawn alone, or dimmed so that what is drawn over them is seen. */
export const CHOSEN_SHOWN = ['alone', 'dimmed'] as const;
