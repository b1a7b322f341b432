import { Channel, channelServer } from './channel.ts';

/** Starts the chat stand-in: one channel with an incoming webhook. */
const port = Number(process.env.OTTIK_CHAT_PORT ?? 4327);
channelServer(new Channel()).listen(port, '127.0.0.1', () => console.log(`chat stand-in: http://localhost:${port}/, webhook at /hook`));
