// What happens to the colours of one source row; the layout is ../layer-table.ts's.

const HAS_MATRIX: i32 = 1;
const HAS_CURVE: i32 = 2;
const HAS_VIGNETTE: i32 = 4;
const FULL: i32 = 32640;
const CURVE_BYTES: usize = 4096 * 2;
/** Share of the half diagonal at which a vignette begins; as in core/look/grade.ts. */
const VIGNETTE_FROM: f32 = 0.35;

/** Changes columns [x0, x1) of `row` (lanes, premultiplied) in place. */
export function applyLook(look: usize, row: usize, x0: i32, x1: i32, y: i32): void {
  const parts = load<i32>(look, 36);
  const red = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(load<f32>(look)), 1, load<f32>(look, 12)), 2, load<f32>(look, 24));
  const green = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(load<f32>(look, 4)), 1, load<f32>(look, 16)), 2, load<f32>(look, 28));
  const blue = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(load<f32>(look, 8)), 1, load<f32>(look, 20)), 2, load<f32>(look, 32));
  const curves = look + 64;
  const end = row + (<usize>x1 << 3);
  let x = x0;
  for (let at = row + (<usize>x0 << 3); at < end; at += 8, x++) {
    if (load<u64>(at) == 0) continue;
    const alpha = <i32>load<u16>(at, 6);
    let r = <f32>load<u16>(at);
    let g = <f32>load<u16>(at, 2);
    let b = <f32>load<u16>(at, 4);
    if (parts & HAS_MATRIX) {
      const sum = f32x4.add(
        f32x4.add(f32x4.mul(red, f32x4.splat(r)), f32x4.mul(green, f32x4.splat(g))),
        f32x4.mul(blue, f32x4.splat(b)),
      );
      const kept = f32x4.max(f32x4.splat(0), f32x4.min(f32x4.splat(<f32>alpha), sum));
      r = f32x4.extract_lane(kept, 0);
      g = f32x4.extract_lane(kept, 1);
      b = f32x4.extract_lane(kept, 2);
    }
    if ((parts & HAS_CURVE) && alpha > 0) {
      // Straight values without their last three bits are the places in the tables.
      const toPlace = <f32>FULL / (<f32>alpha * 8);
      const back = <f32>alpha / <f32>FULL;
      r = <f32>load<u16>(curves + (<usize>min<i32>(4080, <i32>(r * toPlace + 0.5)) << 1)) * back;
      g = <f32>load<u16>(curves + CURVE_BYTES + (<usize>min<i32>(4080, <i32>(g * toPlace + 0.5)) << 1)) * back;
      b = <f32>load<u16>(curves + 2 * CURVE_BYTES + (<usize>min<i32>(4080, <i32>(b * toPlace + 0.5)) << 1)) * back;
    }
    if (parts & HAS_VIGNETTE) {
      const dx = <f32>x - load<f32>(look, 44);
      const dy = <f32>y - load<f32>(look, 48);
      const reach = sqrt<f32>(dx * dx + dy * dy) / load<f32>(look, 52);
      const t = max<f32>(0, min<f32>(1, (reach - VIGNETTE_FROM) / (<f32>1 - VIGNETTE_FROM)));
      const left: f32 = <f32>1 - load<f32>(look, 40) * t * t * (<f32>3 - <f32>2 * t);
      r *= left;
      g *= left;
      b *= left;
    }
    store<u16>(at, <u16><i32>(r + 0.5));
    store<u16>(at, <u16><i32>(g + 0.5), 2);
    store<u16>(at, <u16><i32>(b + 0.5), 4);
  }
}
