import { chromium } from '@playwright/test';
const [,, out, path, ...acts] = process.argv;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on('console', (m) => { if (m.type() === 'error') console.log('CONSOLE', m.text()); });
p.on('pageerror', (e) => console.log('PAGEERROR', e.message));
await p.goto('http://127.0.0.1:4180/sign-in');
await p.getByRole('button', { name: process.env.WHO ? new RegExp(process.env.WHO) : /Wren Tallow/ }).click();
await p.waitForURL(/shelf/);
if (process.env.DARK) await p.getByRole('button', { name: /dark theme/ }).click();
if (path.startsWith('knot:')) { const [n, tab] = path.slice(5).split('/'); await p.getByRole('link', { name: n, exact: true }).first().click(); await p.waitForURL(/knot/); await p.waitForTimeout(1500); await p.goto(p.url().replace(/draft$/, tab)); }
else await p.goto('http://127.0.0.1:4180' + path);
await p.waitForTimeout(Number(process.env.WAIT ?? 2500));
for (const a of acts) { await (new Function('p', `return (async()=>{${a}})()`))(p); }
await p.screenshot({ path: out, fullPage: !!process.env.FULL });
await b.close();
