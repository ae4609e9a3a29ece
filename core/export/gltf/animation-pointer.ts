import {
  type Accessor,
  type Camera,
  Extension,
  type Material,
  type WriterContext,
} from '@gltf-transform/core';

type AnimationDef = NonNullable<WriterContext['jsonDoc']['json']['animations']>[number];

/** What else than a node is animated: an angle of view, or a colour with its alpha. */
export type Pointed =
  | { readonly of: 'yfov'; readonly camera: Camera }
  | { readonly of: 'colour'; readonly material: Material };

interface PointedChannel {
  readonly pointed: Pointed;
  readonly times: Accessor;
  readonly values: Accessor;
}

/** KHR_animation_pointer: animates any property by its JSON pointer. Its channels join the first animation. */
export class AnimationPointer extends Extension {
  override readonly extensionName = 'KHR_animation_pointer';
  static override readonly EXTENSION_NAME = 'KHR_animation_pointer';
  private readonly channels: PointedChannel[] = [];

  get isUsed(): boolean {
    return this.channels.length > 0;
  }

  point(channel: PointedChannel): void {
    this.channels.push(channel);
  }

  override read(): this {
    return this;
  }

  override write(context: WriterContext): this {
    const { json } = context.jsonDoc;
    json.animations ??= [{ name: 'Shot', channels: [], samplers: [] }];
    const animation = json.animations[0] as AnimationDef;
    for (const { pointed, times, values } of this.channels) {
      const [input, output] = [times, values].map((accessor) => context.accessorIndexMap.get(accessor));
      if (input === undefined || output === undefined) throw new Error('An animated value was not written');
      animation.samplers.push({ input, output, interpolation: 'LINEAR' });
      animation.channels.push({
        sampler: animation.samplers.length - 1,
        target: {
          path: 'pointer' as 'translation',
          extensions: { [this.extensionName]: { pointer: pointerOf(pointed, context) } },
        },
      });
    }
    return this;
  }
}

function pointerOf(pointed: Pointed, context: WriterContext): string {
  return pointed.of === 'yfov'
    ? `/cameras/${context.cameraIndexMap.get(pointed.camera)}/perspective/yfov`
    : `/materials/${context.materialIndexMap.get(pointed.material)}/pbrMetallicRoughness/baseColorFactor`;
}
