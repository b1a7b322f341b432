import { z } from 'zod';
import { mustKeepHouse } from '../../people/keeper.ts';
import { mustSee, type Workspace } from '../../people/workspace.ts';
import { Refusal } from '../../refusal.ts';
import type { Db } from '../../store/database.ts';
import { ServerTrouble } from '../../store/guarded-fetch.ts';
import { sealed, unsealed } from '../../store/secrets.ts';
import { keepSetting, setting } from '../../store/settings.ts';
import { hostOf, type ModelServer, modelsOf } from './client.ts';

const SETTING = 'model';
/** Under this name the stand-in that ships with Ottik answers; whatever comes from it is labelled so. */
export const STAND_IN = 'stand-in';

const Address = z
  .url({ protocol: /^https?$/, error: 'That is not the address of a server: it looks like http://localhost:8080/v1.' })
  .max(400)
  .refine((a) => !new URL(a).username && !new URL(a).password, 'The key has a field of its own.');

/**
 * A model server as it is typed in. `key` null keeps the one there is, the empty string is none; `masked` replaces the names
 * of people on their way out; `context` is what the model takes at once, in tokens; `patience` in seconds.
 */
export const ModelSetupSchema = z.object({
  address: Address,
  model: z.string().trim().min(1, 'needs the name of a model').max(200),
  key: z.string().max(2000).nullable().default(null),
  ownNetwork: z.boolean().default(true),
  masked: z.boolean().default(false),
  context: z.number().int().min(4_000).max(2_000_000).default(16_000),
  patience: z.number().int().min(5).max(900).default(120),
  parallel: z.number().int().min(1).max(8).default(1),
});
const KeptSchema = ModelSetupSchema.omit({ key: true }).extend({ secret: z.string().nullable() });
export type ModelSetup = Omit<z.infer<typeof ModelSetupSchema>, 'key'> & { server: ModelServer };

function serverOf({ address, model, secret, ownNetwork, patience }: z.infer<typeof KeptSchema>): ModelServer {
  return { address, model, key: secret === null ? null : unsealed(secret), ownNetwork, patience: patience * 1000 };
}

/** The model server that is set up, or null while there is none. */
export async function modelSetup(db: Db): Promise<ModelSetup | null> {
  const kept = await setting(db, SETTING, KeptSchema);
  if (!kept) return null;
  const { secret: _, ...rest } = kept;
  return { ...rest, server: serverOf(kept) };
}

/** What is typed in, with the key that is kept where none was typed. A key is not sent to a server that was typed in since. */
async function typed(db: Db, { key, ...given }: z.infer<typeof ModelSetupSchema>): Promise<z.infer<typeof KeptSchema>> {
  const before = await setting(db, SETTING, KeptSchema);
  if (key !== null) return { ...given, secret: key === '' ? null : sealed(key) };
  if (before?.secret && new URL(before.address).origin !== new URL(given.address).origin) throw new Refusal('bad-input', 'The server is another one now.', 'Enter its key.');
  return { ...given, secret: before?.secret ?? null };
}

export async function keepModelSetup(ws: Workspace, given: z.infer<typeof ModelSetupSchema>): Promise<void> {
  await mustKeepHouse(ws);
  await keepSetting(ws.db, SETTING, await typed(ws.db, given));
}

/** Takes the model server away: nothing is asked of it from then on. */
export async function forgetModelSetup(ws: Workspace): Promise<void> {
  await mustKeepHouse(ws);
  await keepSetting(ws.db, SETTING, null);
}

/** Tries a server out with what is typed in, and says in words what happened. Nothing of a record goes out. */
export async function tryModel(ws: Workspace, given: z.infer<typeof ModelSetupSchema>): Promise<{ words: string }> {
  await mustKeepHouse(ws);
  const server = serverOf(await typed(ws.db, given));
  const began = Date.now();
  try {
    const models = await modelsOf(server);
    const host = hostOf(server.address);
    if (models.length > 0 && !models.includes(server.model)) throw new Refusal('bad-input', `${host} answers, and has no model “${server.model}”.`, `It has ${models.slice(0, 6).join(', ')}${models.length > 6 ? ` and ${models.length - 6} more` : ''}.`);
    return { words: `${host} answered in ${Date.now() - began} ms${models.length ? `, and has ${server.model}` : ''}.` };
  } catch (error) {
    if (!(error instanceof ServerTrouble)) throw error;
    throw new Refusal('bad-input', error.message);
  }
}

/** What the pages show of the setup; the key is never among it. */
export async function modelShown(db: Db) {
  const kept = await setting(db, SETTING, KeptSchema);
  if (!kept) return null;
  const { secret, ...rest } = kept;
  return { ...rest, hasKey: secret !== null, host: hostOf(kept.address), standIn: kept.model === STAND_IN };
}

/** Has a project's records read by the model reader, or no longer. */
export async function switchModelReader(ws: Workspace, project: string, on: boolean): Promise<void> {
  mustSee(ws.with({ needs: 'manage' }), project, 'project');
  await ws.db
    .updateTable('projects')
    .set({ model_reader: on ? 1 : 0 })
    .where('id', '=', project)
    .execute();
}
