/** What the lens makes sharp. */
export const LENS_CHANNELS = ['focus', 'iris'] as const;
/** Where the camera is and how much it sees. */
export const POSE_CHANNELS = ['panX', 'panY', 'truck', 'zoom', 'roll'] as const;
/** The camera's move: where it is, what it sees and what is sharp. */
export const MOVE_CHANNELS = [...POSE_CHANNELS, ...LENS_CHANNELS] as const;
/** The air and the filter before the lens. */
export const CAMERA_LOOKS = [
  'airColour',
  'visibility',
  'brightness',
  'tint',
  'tintStrength',
  'glow',
  'vignette',
] as const;
export type CameraLook = (typeof CAMERA_LOOKS)[number];
export const CAMERA_CHANNELS = [...MOVE_CHANNELS, ...CAMERA_LOOKS] as const;
export type CameraChannel = (typeof CAMERA_CHANNELS)[number];
export const isCameraLook = (name: string): name is CameraLook => CAMERA_LOOKS.some((look) => look === name);
