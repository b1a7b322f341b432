import { changeShares, ShareSchema } from '../../../../server/meetings/shares.ts';
import { publicAddress } from '../../../../server/store/addresses.ts';
import { endpoint } from '../../../../server/web/requests.ts';

/** Makes a link to issued minutes or to the meeting as it stands, or takes one back. */
export const POST = endpoint(ShareSchema, async ({ ws, body, id }) => {
  const { shares, token } = await changeShares(ws, id, body, new Date());
  return { shares, link: token && `${publicAddress()}/shared/${token}` };
});
