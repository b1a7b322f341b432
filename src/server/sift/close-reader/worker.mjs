/**
 * The thread in which the close reader's encoder runs, so that the server answers meanwhile. Plain JavaScript, since a
 * thread is started from a file as it is.
 *
 * Comes in:  { model: Uint8Array, threads: number } once, then { job, stretches: { ids, parts, marks }[] }
 * Goes out:  { ready: true } | { failed: message }, then { job, at, markers } for each stretch and { job, done: true }
 */
import { parentPort } from 'node:worker_threads';
import * as ort from 'onnxruntime-node';

/** Stretches of about the same length are read together; more at once is no faster on two cores. */
const TOGETHER = 4;
let session = null;
let queue = Promise.resolve();

const tensor = (rows, width, value) => {
  const data = new BigInt64Array(rows.length * width);
  for (const [r, row] of rows.entries()) for (let i = 0; i < row.length; i++) data[r * width + i] = BigInt(value(row[i]));
  return new ort.Tensor('int64', data, [rows.length, width]);
};

async function read(stretches) {
  const width = Math.max(...stretches.map((s) => s.ids.length));
  const feeds = {
    ids: tensor(
      stretches.map((s) => s.ids),
      width,
      (x) => x,
    ),
    types: tensor(
      stretches.map((s) => s.parts),
      width,
      (x) => x,
    ),
    mask: tensor(
      stretches.map((s) => s.ids),
      width,
      () => 1,
    ),
  };
  const { out } = await session.run(feeds);
  const size = out.dims[2];
  return stretches.map((s, r) => {
    const markers = new Float32Array(s.marks.length * size);
    for (const [k, at] of s.marks.entries()) markers.set(out.data.subarray((r * width + at) * size, (r * width + at + 1) * size), k * size);
    return markers;
  });
}

async function work({ job, stretches }) {
  const order = stretches.map((s, at) => ({ s, at })).sort((a, b) => b.s.ids.length - a.s.ids.length);
  for (let k = 0; k < order.length; k += TOGETHER) {
    const some = order.slice(k, k + TOGETHER);
    const markers = await read(some.map((x) => x.s));
    for (const [i, { at }] of some.entries()) parentPort.postMessage({ job, at, markers: markers[i] });
  }
  parentPort.postMessage({ job, done: true });
}

parentPort.on('message', (message) => {
  queue = queue.then(async () => {
    if (message.model) {
      session = await ort.InferenceSession.create(message.model, { intraOpNumThreads: message.threads, interOpNumThreads: 1 });
      parentPort.postMessage({ ready: true });
    } else await work(message);
  });
  queue = queue.catch((error) => parentPort.postMessage({ job: message.job, failed: error instanceof Error ? error.message : String(error) }));
});
