/** What the lens makes sharp. */
export const LENS_CHANNELS = ['focus', 'iris'] as const;
/** Where the camera is and how much it sees. */
export const POSE_CHANNELS = ['panX', 'panY', 'truck', 'zoom', 'roll'] as const;
export const CAMERA_CHANNELS = [...POSE_CHANNELS, ...LENS_CHANNELS] as const;
export type CameraChannel = (typeof CAMERA_CHANNELS)[number];
