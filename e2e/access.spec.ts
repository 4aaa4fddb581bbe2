import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { choose } from './support/choose.ts';
import { wavBytes } from './support/files.ts';
import { expect, test } from './support/server.ts';

const openBench = async (page: Page, job = 'Station desk phones') => {
  await page.goto('/');
  await page.getByRole('link', { name: job, exact: true }).click();
  await expect(page.getByTestId('result-lane')).toHaveAttribute('data-current', 'true');
};

/** In a small window: to another part of the bench. */
const toPart = async (page: Page, name: string | RegExp) => {
  const button = page.getByRole('navigation', { name: 'Parts of the bench' }).getByRole('button', { name });
  if (await button.isVisible()) await button.click();
};

const compareDepths = async (page: Page) => {
  await openBench(page, 'Cabin panel');
  await page.locator('body').press('6');
  await page.getByRole('button', { name: 'Compare what else there is' }).click();
  await expect(page.getByText('being made')).toHaveCount(0);
  await page.locator('body').press('2');
};

const STATIONS = ['Cut', 'Channels', 'Rate', 'Level', 'Ends', 'Depth', 'Wrap'];

const views = [
  {
    name: 'Jobs',
    open: async (page: Page) => {
      await page.goto('/');
      await expect(page.getByRole('heading', { name: 'Start a job' })).toBeVisible();
    },
  },
  { name: 'Bench', open: (page: Page) => openBench(page) },
  {
    name: 'Bench with an obstacle and each station opened',
    open: async (page: Page) => {
      await openBench(page);
      await toPart(page, /^Clips/);
      await page.getByRole('button', { name: /^2 Summit tune/ }).click();
      await expect(page.getByTestId('clip-verdict')).toContainText('breaks');
    },
  },
  {
    name: 'A set evened out',
    open: async (page: Page) => {
      await openBench(page, 'Cabin panel');
      await page.locator('body').press('4');
      await page.getByRole('button', { name: 'Even out all clips' }).click();
      await expect(page.getByRole('button', { name: 'Give all the same loudness' })).toBeEnabled();
    },
  },
  {
    name: 'Try-out with a symptom explained',
    open: async (page: Page) => {
      await page.goto('/try');
      await page.getByRole('button', { name: /guards.* card/ }).click();
      await page.getByRole('button', { name: 'It is listed, but refused' }).click();
      await page.getByRole('button', { name: /^File/ }).click();
      await page.getByRole('option', { name: 'storm-warning.wav' }).click();
      await expect(page.getByText('Its samples are of another encoding')).toBeVisible();
    },
  },
  {
    name: 'A target sheet',
    open: async (page: Page) => {
      await page.goto('/targets/desk-phone-ring-tone');
      await expect(page.getByRole('article')).toBeVisible();
    },
  },
  {
    name: 'A sheet being edited',
    open: async (page: Page) => {
      await page.goto('/targets/show-controller-track');
      await page.getByRole('button', { name: 'Duplicate' }).click();
      await choose(page.locator('[data-kind=sample-rate]'), /^With anything else it/, 'does what is not known');
      await page.getByRole('button', { name: 'Rates of a timer' }).first().click();
      await expect(page.getByRole('region', { name: 'Rates of a timer' })).toBeVisible();
      await expect(page.getByRole('article')).toBeVisible();
    },
  },
  {
    name: 'A file checked',
    open: async (page: Page) => {
      await page.goto('/check?target=loop-player');
      await page.getByLabel('Files to check').setInputFiles({ name: 'odd.wav', mimeType: '', buffer: wavBytes(0.4) });
      await expect(page.getByText('does not meet the sheet')).toBeVisible();
    },
  },
  {
    name: 'Shelf with a source selected',
    open: async (page: Page) => {
      await page.goto('/shelf');
      await page.getByRole('row', { name: /enquiry-line/ }).click();
      await expect(page.getByRole('complementary', { name: 'Selected' })).toContainText('Named .mp3, is WAV.');
    },
  },
  {
    name: 'Parts of a recording',
    open: async (page: Page) => {
      await page.goto('/shelf');
      await page.getByRole('row', { name: /guard-announcements/ }).click();
      await page.getByRole('button', { name: 'Find parts' }).click();
      await expect(page.getByRole('list', { name: 'Parts' })).toBeVisible();
    },
  },
  {
    name: 'Headerless bytes',
    open: async (page: Page) => {
      await page.goto('/shelf');
      const buffer = Buffer.from(Array.from({ length: 20_000 }, (_, i) => 128 + 90 * Math.sin(i / 9)));
      await page
        .getByLabel('Audio files')
        .setInputFiles({ name: 'bare.bin', mimeType: 'application/octet-stream', buffer });
      await page.getByRole('button', { name: /Read as headerless/ }).click();
      await expect(page.getByRole('radiogroup', { name: 'Likely readings' })).toBeVisible();
    },
  },
  {
    name: 'Prompts to be spoken',
    open: async (page: Page) => {
      await page.goto('/shelf');
      await page.getByRole('button', { name: 'Speak' }).click();
      await page.getByRole('dialog').getByRole('textbox').fill('Upper station.');
    },
  },
  {
    name: 'Alternatives, compared',
    open: compareDepths,
  },
  {
    name: 'Blind test',
    open: async (page: Page) => {
      await compareDepths(page);
      await page.getByRole('button', { name: 'Blind test …' }).click();
      await expect(page.getByText('Round 1')).toBeVisible();
    },
  },
  {
    name: 'Everything that can be done',
    open: async (page: Page) => {
      await openBench(page, 'Station desk phones');
      await page.keyboard.press('Control+k');
      await expect(page.getByRole('option').first()).toBeVisible();
    },
  },
  {
    name: 'What a sheet asks',
    open: async (page: Page) => {
      await page.goto('/');
      await page
        .getByRole('radio', { name: 'Loop player' })
        .or(page.getByRole('button', { name: /Device/ }))
        .first()
        .click();
      await page
        .getByRole('option', { name: 'Loop player' })
        .or(page.getByRole('radio', { name: 'Loop player' }))
        .first()
        .click();
      await expect(page.getByRole('textbox', { name: 'What is the tempo?' })).toBeVisible();
    },
  },
  {
    name: 'Set',
    open: async (page: Page) => {
      await openBench(page, 'Station desk phones');
      await page.getByRole('link', { name: 'Set', exact: true }).click();
      await expect(page.getByRole('list', { name: 'Places of the set' })).toBeVisible();
    },
  },
  {
    name: 'Delivery',
    open: async (page: Page) => {
      await openBench(page, 'Cabin panel');
      await toPart(page, /^Clips/);
      await page.getByRole('button', { name: 'Build set' }).click();
      await expect(page.getByRole('link', { name: /Download the set/ })).toBeVisible();
      await page
        .getByRole('button', { name: /^Show / })
        .first()
        .click();
      await page.getByRole('tab', { name: 'Bytes' }).click();
      await expect(page.getByRole('list', { name: 'What the bytes say' }).or(page.getByText('000010'))).toBeVisible();
    },
  },
];

/** What the theme changes is colours alone: they are looked at in both, all else in one. */
for (const width of [1280, 390]) {
  test.describe(`${width} px`, () => {
    test.use({ viewport: { width, height: 800 } });
    for (const { name, open } of views) {
      test(`${name}: axe finds nothing in either theme, and nothing sticks out sideways`, async ({ page }) => {
        // Seven stations are seven examinations.
        test.slow(name.includes('station'));
        await open(page);
        const found = async (part: string, builder: AxeBuilder) => {
          const { violations } = await builder.analyze();
          return violations.map(({ id, nodes }) => `${part} ${id}: ${nodes.map(({ html }) => html)}`);
        };
        const examine = async (part: string, around = () => new AxeBuilder({ page })) => {
          expect(await found(part, around())).toEqual([]);
          await page.evaluate(() => document.documentElement.classList.add('dark'));
          expect(await found(`${part}, dark,`, around().withRules(['color-contrast']))).toEqual([]);
          await page.evaluate(() => document.documentElement.classList.remove('dark'));
          expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
        };
        await examine('all');
        for (const part of name === 'Bench' ? ['Clips', 'Sheet'] : []) {
          await toPart(page, new RegExp(`^${part}`));
          await examine(part);
        }
        if (!name.includes('station')) return;
        for (const [index, title] of STATIONS.entries()) {
          // The first one is open from the start, and its key would close it.
          if (index > 0) await page.locator('body').press(String(index + 1));
          await expect(page.getByRole('region', { name: title, exact: true })).toBeVisible();
          // Around it nothing has changed.
          await examine(title, () => new AxeBuilder({ page }).include('#station'));
        }
      });
    }
  });
}

test('the theme of the system is followed, and another one is kept', async ({ page }) => {
  const isDark = () => page.evaluate(() => document.documentElement.classList.contains('dark'));
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.goto('/');
  expect(await isDark()).toBe(true);
  await page.getByRole('button', { name: 'Use the light theme' }).click();
  expect(await isDark()).toBe(false);
  await page.reload();
  expect(await isDark()).toBe(false);
});

test('by keyboard alone: choose a job, a clip, a station, play, build', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Cabin panel', exact: true })).toBeVisible();
  const tabTo = async (name: RegExp) => {
    for (let presses = 0; presses < 60; presses++) {
      await page.keyboard.press('Tab');
      const label = await page.evaluate(() => {
        const element = document.activeElement;
        return element?.getAttribute('aria-label') ?? element?.textContent ?? '';
      });
      if (name.test(label)) return;
    }
    throw new Error(`no way to ${name} by Tab`);
  };
  await tabTo(/^Cabin panel$/);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('result-lane')).toHaveAttribute('data-current', 'true');
  await tabTo(/^2Departure chime/);
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Name of the clip')).toHaveValue('Departure chime');
  await tabTo(/^End of the cut$/);
  const end = page.getByRole('slider', { name: 'End of the cut' });
  const before = Number(await end.getAttribute('aria-valuenow'));
  await page.keyboard.press('ArrowLeft');
  await expect(end).toHaveAttribute('aria-valuenow', String(before - 441));
  await tabTo(/^Channels/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Channels' })).toBeVisible();
  await tabTo(/^Automatic/);
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('radio', { name: 'Keep left' })).toBeChecked();
  await tabTo(/^Build set$/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: /Download the set/ })).toBeVisible();
});
