import type { Page } from '@playwright/test';
import { expect } from '@playwright/test';

/** Lets go of what is dragged. For a moment after that clicks are kept from the page, lest the drag be one; until they come through again. */
export async function drop(page: Page): Promise<void> {
  await page.mouse.up();
  const comesThrough = () => {
    let isHeard = false;
    const hear = () => {
      isHeard = true;
    };
    document.body.addEventListener('click', hear);
    document.body.click();
    document.body.removeEventListener('click', hear);
    return isHeard;
  };
  await expect.poll(() => page.evaluate(comesThrough)).toBe(true);
}
