import { setNonce as setScrollLockNonce } from 'get-nonce';
import { setNonce as setPickerNonce } from 'react-colorful';

/** The page's nonce, without which its policy takes no style element; none where a page has none, as in tests. */
export const styleNonce = (): string | undefined =>
  document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content || undefined;

/** Gives it to the libraries that make style elements and are told once for all. */
export function passStyleNonce(): void {
  const nonce = styleNonce();
  if (!nonce) return;
  setScrollLockNonce(nonce);
  setPickerNonce(nonce);
}
