import { AgendaChangeSchema, agendaOf, changeAgenda } from '../../../../server/meetings/agenda.ts';
import { answer, endpoint } from '../../../../server/web/requests.ts';

export const GET = answer(({ ws, id }) => agendaOf(ws, id));

/** Adds to an agenda, orders or changes it. */
export const POST = endpoint(AgendaChangeSchema, ({ ws, body, id }) => changeAgenda(ws, id, body, new Date()));
