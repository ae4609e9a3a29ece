import { readFileSync } from 'node:fs';
import type { Reporter, TestCase, TestResult } from '@playwright/test/reporter';

/** Lines of the page that are printed for a test that failed. */
const LINES = 120;

/** Prints what the page showed, and what the server said, when a test failed: the files are gone with the machine. */
export default class ShownPage implements Reporter {
  onTestEnd(test: TestCase, result: TestResult): void {
    if (result.status === test.expectedStatus) return;
    for (const { name, path, body } of result.attachments) {
      if (name !== 'error-context' && name !== 'server') continue;
      const text = body?.toString() ?? (path ? readFileSync(path, 'utf8') : '');
      console.log(`--- ${test.title}: ${name}\n${text.split('\n').slice(0, LINES).join('\n')}\n---`);
    }
  }

  printsToStdio(): boolean {
    return false;
  }
}
