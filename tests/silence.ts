/** Seconds of silence as a wave file (RIFF, IBM and Microsoft 1991): 8,000 samples a second of 8 bits. */
export function silence(seconds: number): Buffer {
  const n = 8000 * seconds;
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + n, 4);
  head.write('WAVEfmt ', 8);
  // size of this part, PCM, one channel, samples and bytes a second, bytes and bits a sample
  for (const [at, value, size] of [
    [16, 16, 4],
    [20, 1, 2],
    [22, 1, 2],
    [24, 8000, 4],
    [28, 8000, 4],
    [32, 1, 2],
    [34, 8, 2],
  ] as const)
    head.writeUIntLE(value, at, size);
  head.write('data', 36);
  head.writeUInt32LE(n, 40);
  return Buffer.concat([head, Buffer.alloc(n, 128)]);
}
