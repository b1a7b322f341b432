import { z } from 'zod';
import { readersPage } from '../../server/pages/readers.ts';
import { forgetModelSetup, keepModelSetup, ModelSetupSchema, switchModelReader, tryModel } from '../../server/sift/model-reader/setup.ts';
import { answer, endpoint } from '../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [ModelSetupSchema.extend({ do: z.literal('try model') }), ModelSetupSchema.extend({ do: z.literal('keep model') }), z.object({ do: z.literal('forget model') }), z.object({ do: z.literal('switch'), project: z.string().max(140), on: z.boolean() })]);

/** Sets up the model reader, or tries it out. What is only tried changes nothing. */
export const POST = endpoint(
  Body,
  async ({ ws, body }) => {
    switch (body.do) {
      case 'try model':
        return tryModel(ws, body);
      case 'keep model': {
        const { do: _, ...given } = body;
        await keepModelSetup(ws, given);
        break;
      }
      case 'forget model':
        await forgetModelSetup(ws);
        break;
      case 'switch':
        await switchModelReader(ws, body.project, body.on);
    }
    return readersPage(ws);
  },
  'read',
);

export const GET = answer(({ ws }) => readersPage(ws));
