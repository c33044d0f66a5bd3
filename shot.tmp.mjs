import { chromium } from '@playwright/test';
const [,, out, path, ...steps] = process.argv;
const dark = process.env.DARK === '1';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: Number(process.env.W ?? 1280), height: Number(process.env.H ?? 800) }, colorScheme: dark ? 'dark' : 'light' });
p.on('console', (m) => { if (m.type() === 'error') console.log('console:', m.text()); });
p.on('pageerror', (e) => console.log('pageerror:', e.message));
await p.goto('http://127.0.0.1:4180/sign-in');
await p.getByRole('button', { name: /Wren Tallow/ }).click();
await p.waitForURL('**/shelf');
if (dark && (await p.getByRole('button', { name: /dark theme/ }).count())) await p.getByRole('button', { name: /dark theme/ }).click();
await p.goto('http://127.0.0.1:4180' + path);
await p.waitForTimeout(1200);
for (const s of steps) { await eval(`(async()=>{${s}})()`); await p.waitForTimeout(500); }
await p.screenshot({ path: `/tmp/${out}.png` });
await b.close();
