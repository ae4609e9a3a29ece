/** Escape gives up what is being typed before it closes what the field stands in. */
export function leaveToField(event: { preventDefault: () => void }): void {
  if (document.activeElement?.hasAttribute('data-typing')) event.preventDefault();
}
