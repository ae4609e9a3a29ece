import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

/** What axe calls serious or critical in a part of the page, by WCAG 2.2 A and AA and by its own best practices: a line each. */
export async function accessFaults(page: Page, within = 'body'): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .options({ resultTypes: ['violations'] })
    .withTags(TAGS)
    .include(within)
    // There are no frames in our pages: what gathers the results of several opens another page each time.
    .setLegacyMode()
    .analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id} ${nodes.map((node) => node.html).join(' | ')}`);
}
