import { setNonce as setScrollLockNonce } from 'get-nonce';
import { setNonce as setPickerNonce } from 'react-colorful';

/** Gives the libraries that make style elements the page's nonce: without it the page's policy does not take them. */
export function passStyleNonce(): void {
  const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content;
  if (!nonce) return;
  setScrollLockNonce(nonce);
  setPickerNonce(nonce);
}
