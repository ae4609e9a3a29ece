import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'];

/** What axe calls serious or critical within a part of the page, by the levels A and AA of WCAG 2.2: a line each. */
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
