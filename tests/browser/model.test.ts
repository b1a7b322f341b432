import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CAREFUL, CAREFUL_GIST } from '../../demo/careful.ts';
import { STAND_IN } from '../../src/server/sift/model-reader/setup.ts';
import { keepSetting } from '../../src/server/store/settings.ts';
import { ModelStandIn } from '../../standins/model/server.ts';
import { Application } from './application.ts';

let app: Application;
let standIn: ModelStandIn;
let server: Server;
beforeAll(async () => {
  standIn = new ModelStandIn(CAREFUL, CAREFUL_GIST);
  server = standIn.server();
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const address = `http://localhost:${(server.address() as AddressInfo).port}/v1`;
  app = await Application.start({ prepare: (db) => keepSetting(db, 'model', { address, model: STAND_IN, secret: null, ownNetwork: true, masked: false, context: 16_000, patience: 30, parallel: 1 }) });
});
afterAll(async () => {
  await app.stop();
  server.closeAllConnections();
  server.close();
});

describe('the model reader', () => {
  it('is offered with what would go out; one key has it read, and the finds become the careful ones', async () => {
    const page = await app.page('/meetings/10/sift');
    const line = page.locator('.say.model');
    expect(await line.innerText()).toMatch(/Model reader, a stand-in[\s\S]*Off in this project[\s\S]*Switching it on sends 473 words of this record to localhost:\d+, the stand-in on this machine, with 13 people and 18 open commitments\. Names go as they are\./);
    standIn.mode = 'refusing';
    await page.keyboard.press('r');
    await line.getByText('does not accept the key').waitFor();
    expect(await line.innerText()).toContain('Sift’s own finds stand');
    standIn.mode = 'well';
    await line.getByRole('button', { name: 'Ask again' }).click();
    await line.getByText('14 finds held up against the words').waitFor();
    await page.getByText('Does the plug still reach at low spring tide').last().waitFor();
    await page.getByText('Read by the model').waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
  it('tells what the record was about, each sentence beside its moment', async () => {
    const page = await app.page('/meetings/10/gist');
    const summary = page.getByLabel('Summary');
    expect(await summary.innerText()).toMatch(/In the words of the model stand-in[\s\S]*0:44\s*The vent trunk goes aft of the funnel casing, because/);
    await summary.getByText('Show the record’s own').click();
    await page.getByText('In the record’s own words.').waitFor();
    await page.context().close();
  });
  it('stands on the page of the readers, where it is tried, and switched off', async () => {
    const page = await app.page('/readers');
    expect(await page.getByLabel('Its last readings').innerText()).toMatch(/Weekly works call[\s\S]*read by the stand-in[\s\S]*473 words in/);
    await page.keyboard.press('o');
    await page.getByRole('button', { name: 'Try it' }).click();
    await page.getByText(/answered in \d+ ms, and has stand-in/).waitFor();
    await page.getByLabel('Model', { exact: true }).fill('another');
    await page.getByRole('button', { name: 'Try it' }).click();
    await page.getByText('has no model “another”').waitFor();
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Switch off' }).click();
    await page.getByText('Records of Quiet Crossing stay here.').waitFor();
    expect(page.wrong).toEqual([]);
    await page.context().close();
  });
});
