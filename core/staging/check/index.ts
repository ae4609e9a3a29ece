export { checkedAfter } from './checked-scene.ts';
export { readScene } from './read-scene.ts';
export { soundSceneSchema } from './sound-scene.ts';
