/** What the browser has stored under a name; null where there is nothing, or storage is shut. */
export function readStored(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch (error) {
    if (error instanceof DOMException) return null;
    throw error;
  }
}

/** Stores a text in the browser, or takes it away (null). False where it does not fit, or storage is shut: nothing is there then. */
export function store(name: string, text: string | null): boolean {
  try {
    if (text === null) localStorage.removeItem(name);
    else localStorage.setItem(name, text);
    return true;
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
    return Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '');
  } catch (error) {
    if (error instanceof DOMException) return [];
    throw error;
  }
}
