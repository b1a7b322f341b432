import { ModelStandIn } from '../standins/model/server.ts';
import { CAREFUL, CAREFUL_GIST } from './careful.ts';

/** Starts the stand-in for a model server, with the prepared answers for the demo's records. */
const port = Number(process.env.OTTIK_MODEL_PORT ?? 4424);
new ModelStandIn(CAREFUL, CAREFUL_GIST).server().listen(port, '127.0.0.1', () => console.log(`model stand-in: http://localhost:${port}/v1, model “stand-in”`));
