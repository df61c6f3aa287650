import { chromium } from '@playwright/test';
const at = 'http://127.0.0.1:4300';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
const name = process.argv[2]; const steps = process.argv.slice(3);
for (const s of steps) {
  const [verb, ...rest] = s.split('~'); const a = rest.join('~');
  if (verb === 'go') await p.goto(at + a, { waitUntil: 'networkidle' });
  if (verb === 'click') await p.locator(a).first().click();
  if (verb === 'focus') await p.locator(a).first().focus();
  if (verb === 'fill') await p.keyboard.type(a);
  if (verb === 'press') await p.keyboard.press(a);
  if (verb === 'wait') await p.waitForTimeout(Number(a));
  if (verb === 'dark') await p.emulateMedia({ colorScheme: 'dark' });
}
await p.screenshot({ path: `/tmp/${name}.png` });
await b.close();
