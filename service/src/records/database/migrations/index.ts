import { up as first } from "./0001-first.js";
import { up as intake } from "./0002-intake.js";
import { up as delivery } from "./0003-delivery.js";
import { up as once } from "./0004-once.js";
import { up as lines } from "./0005-lines.js";
import { up as contract } from "./0006-contract.js";
import { up as notes } from "./0007-notes.js";
import { up as since } from "./0008-since.js";
import { up as keeping } from "./0009-keeping.js";
import { up as slides } from "./0010-slides.js";
import { up as catchUp } from "./0011-catch-up.js";
import { up as occasions } from "./0012-occasions.js";
import { up as waysOut } from "./0013-ways-out.js";
import { up as enquiries } from "./0014-enquiries.js";
import { up as packed } from "./0015-packed.js";
import { up as people } from "./0016-people.js";
import { up as trail } from "./0017-trail.js";
import { up as factors } from "./0018-factors.js";
import { up as persons } from "./0019-persons.js";
import { up as left } from "./0020-left.js";
import type { Migrating } from "./migrating.js";

/** SQL, or a function where rows have to be changed by more than SQL can. */
export type Change = string | ((migrating: Migrating) => Promise<void>);

/** In order; a migration that has been released is never changed. */
export const MIGRATIONS: readonly { readonly name: string; readonly up: Change }[] = [
  { name: "0001-first", up: first },
  { name: "0002-intake", up: intake },
  { name: "0003-delivery", up: delivery },
  { name: "0004-once", up: once },
  { name: "0005-lines", up: lines },
  { name: "0006-contract", up: contract },
  { name: "0007-notes", up: notes },
  { name: "0008-since", up: since },
  { name: "0009-keeping", up: keeping },
  { name: "0010-slides", up: slides },
  { name: "0011-catch-up", up: catchUp },
  { name: "0012-occasions", up: occasions },
  { name: "0013-ways-out", up: waysOut },
  { name: "0014-enquiries", up: enquiries },
  { name: "0015-packed", up: packed },
  { name: "0016-people", up: people },
  { name: "0017-trail", up: trail },
  { name: "0018-factors", up: factors },
  { name: "0019-persons", up: persons },
  { name: "0020-left", up: left },
];
