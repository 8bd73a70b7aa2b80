import { chromium } from "@playwright/test";
const b = await chromium.connectOverCDP("http://127.0.0.1:9333");
const ctx = b.contexts()[0]; const page = ctx.pages()[0]; page.setDefaultTimeout(6000);
const phone = process.argv[2] === "p";
await page.setViewportSize(phone ? {width:390,height:844} : {width:1280,height:800});
const tap = (name, role="button") => page.getByRole(role,{name}).first().click();
try { await eval(`(async()=>{${process.argv[4]}})()`); } catch (e) { console.log(String(e).slice(0,600)); }
await page.waitForTimeout(700);
await page.screenshot({path:`/tmp/shots/st-${process.argv[3]}.png`});
console.log(page.url());
await b.close();
