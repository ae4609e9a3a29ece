import type { ImageSink, KeptImage } from './keep-image.ts';

export interface CollectedImage {
  readonly image: KeptImage;
  readonly png: Uint8Array;
}

/** A sink that keeps images in memory by their id: for the command line and the demo. */
export function collectImages(): { readonly sink: ImageSink; readonly images: Map<string, CollectedImage> } {
  const images = new Map<string, CollectedImage>();
  const sink: ImageSink = {
    keep: async (image, png) => {
      images.set(image.art.id, { image, png });
    },
  };
  return { sink, images };
}
