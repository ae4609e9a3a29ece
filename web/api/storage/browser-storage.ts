/** What the browser has stored under a name; null where there is nothing, storage is shut, or this is no browser. */
export function readStored(name: string): string | null {
  try {
    return globalThis.localStorage?.getItem(name) ?? null;
  } catch (error) {
    if (error instanceof DOMException) return null;
    throw error;
  }
}

/** Stores a text in the browser, or takes it away (null). False where it does not fit, or storage is shut: nothing is there then. */
export function store(name: string, text: string | null): boolean {
  try {
    const { localStorage: there } = globalThis;
    if (text === null) there?.removeItem(name);
    else there?.setItem(name, text);
    return there !== undefined;
  } catch (error) {
    if (!(error instanceof DOMException)) throw error;
    // An older text must not stand for the new one.
    if (error.name === 'QuotaExceededError') localStorage.removeItem(name);
    return false;
  }
}

/** All names under which something is stored. */
export function storedNames(): string[] {
  try {
    const { localStorage: there } = globalThis;
    return Array.from({ length: there?.length ?? 0 }, (_, i) => there.key(i) ?? '');
  } catch (error) {
    if (error instanceof DOMException) return [];
    throw error;
  }
}
