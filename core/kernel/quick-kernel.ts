/**
 * Whether this engine runs `kernel-quick.wasm`, the kernel with the multiplication of WebAssembly 3.0's Relaxed SIMD. It
 * draws the same bytes as `kernel.wasm`: assembly/lanes.ts says why.
 */
export { relaxedSimd as mayRunQuickKernel } from 'wasm-feature-detect';
