import { area } from './kinds/area';
import { battery } from './kinds/battery';
import { belt } from './kinds/belt';
import { bend } from './kinds/bend';
import { blade } from './kinds/blade';
import { bolts } from './kinds/bolts';
import { brakeDisc } from './kinds/brakeDisc';
import { breaker } from './kinds/breaker';
import { bucket } from './kinds/bucket';
import { button } from './kinds/button';
import { cable } from './kinds/cable';
import { casing } from './kinds/casing';
import { chain } from './kinds/chain';
import { chock } from './kinds/chock';
import { column } from './kinds/column';
import { cylinder } from './kinds/cylinder';
import { deck } from './kinds/deck';
import { dipstick } from './kinds/dipstick';
import { display } from './kinds/display';
import { document } from './kinds/document';
import { earth } from './kinds/earth';
import { extinguisher } from './kinds/extinguisher';
import { filter } from './kinds/filter';
import { fork } from './kinds/fork';
import { gauge } from './kinds/gauge';
import { glass } from './kinds/glass';
import { greasePoint } from './kinds/greasePoint';
import { grille } from './kinds/grille';
import { guard } from './kinds/guard';
import { hitch } from './kinds/hitch';
import { hook } from './kinds/hook';
import { hose } from './kinds/hose';
import { isolator } from './kinds/isolator';
import { jack } from './kinds/jack';
import { ladder } from './kinds/ladder';
import { lamp } from './kinds/lamp';
import { lamps } from './kinds/lamps';
import { latch } from './kinds/latch';
import { lever } from './kinds/lever';
import { lineTrimmer } from './kinds/lineTrimmer';
import { load } from './kinds/load';
import { lockBar } from './kinds/lockBar';
import { motion } from './kinds/motion';
import { mowerBlade } from './kinds/mowerBlade';
import { pad } from './kinds/pad';
import { pedal } from './kinds/pedal';
import { pin } from './kinds/pin';
import { plate } from './kinds/plate';
import { ppe } from './kinds/ppe';
import { puddle } from './kinds/puddle';
import { pullCord } from './kinds/pullCord';
import { reel } from './kinds/reel';
import { rope } from './kinds/rope';
import { selector } from './kinds/selector';
import { shaft } from './kinds/shaft';
import { sheave } from './kinds/sheave';
import { sightGlass } from './kinds/sightGlass';
import { sling } from './kinds/sling';
import { smoke } from './kinds/smoke';
import { spring } from './kinds/spring';
import { step } from './kinds/step';
import { strap } from './kinds/strap';
import { stripe } from './kinds/stripe';
import { tank } from './kinds/tank';
import { teeth } from './kinds/teeth';
import { track } from './kinds/track';
import { turf } from './kinds/turf';
import { tyre } from './kinds/tyre';
import { valve } from './kinds/valve';
import { webbing } from './kinds/webbing';
import { wedgeSocket } from './kinds/wedgeSocket';
import { weld } from './kinds/weld';
import { wheelNuts } from './kinds/wheelNuts';
import type { EvidenceKind } from './kind';

const KINDS: readonly EvidenceKind[] = [
  area,
  battery,
  belt,
  bend,
  blade,
  bolts,
  brakeDisc,
  breaker,
  bucket,
  button,
  cable,
  casing,
  chain,
  chock,
  column,
  cylinder,
  deck,
  dipstick,
  display,
  document,
  earth,
  extinguisher,
  filter,
  fork,
  gauge,
  glass,
  greasePoint,
  grille,
  guard,
  hitch,
  hook,
  hose,
  isolator,
  jack,
  ladder,
  lamp,
  lamps,
  latch,
  lever,
  lineTrimmer,
  load,
  lockBar,
  motion,
  mowerBlade,
  pad,
  pedal,
  pin,
  plate,
  ppe,
  puddle,
  pullCord,
  reel,
  rope,
  selector,
  shaft,
  sheave,
  sightGlass,
  sling,
  smoke,
  spring,
  step,
  strap,
  stripe,
  tank,
  teeth,
  track,
  turf,
  tyre,
  valve,
  webbing,
  wedgeSocket,
  weld,
  wheelNuts,
];

/** Every kind of evidence, by its id. */
export const EVIDENCE_KINDS: ReadonlyMap<string, EvidenceKind> = new Map(
  KINDS.map((each) => [each.id, each]),
);
