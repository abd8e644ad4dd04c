import type { RouteAnswer, RouteInput, routes } from '@rounds/contract';
import { doActs, drillProgress } from '@rounds/core/drill';
import type { Caller } from '../accounts/access';
import { append } from '../data/append';
import { type House, siteToday } from '../data/context';
import { drillView, ownDrill } from './drillViews';
import { actOrProblem, drillStream, readDrill } from './stream';

type Asked = RouteInput<typeof routes.doDrillAct>;

/** A drill of the caller as far as it has gone. */
export async function openDrill(house: House, caller: Caller, id: string) {
  return drillView(house, await readDrill(house.db, await ownDrill(house, caller, id)));
}

/** Does one act; sent again, it is answered as it was the first time. */
export async function doDrillAct(
  house: House,
  params: Asked['params'],
  body: Asked['body'],
  caller: Caller,
): Promise<RouteAnswer<typeof routes.doDrillAct>> {
  const row = await ownDrill(house, caller, params.id);
  const stream = drillStream(house.now().toISOString(), await siteToday(house));
  const held = await house.db.transaction((db) => append(db, stream, row.id, [body], caller));
  const at = held.acts.findIndex((each) => each.id === body.id);
  const before = doActs(
    held.pack,
    row.deal,
    held.acts.slice(0, at).map((each) => each.act),
  );
  const { answer } = actOrProblem({ ...held, state: before }, held.acts[at]!.act);
  return {
    reading: answer.kind === 'reading' ? answer.reading : null,
    refused: answer.kind === 'brought' ? answer.refused : null,
    progress: drillProgress(held.state),
  };
}
