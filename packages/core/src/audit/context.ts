import { chainLengths, type Chains } from '../graph/chains.js';
import { stronglyConnected, type Components } from '../graph/components.js';
import { fanOuts } from '../graph/fan-out.js';
import { cycleGroups, type CycleGroup } from '../graph/cycles.js';
import { defaultedKeys, type DefaultedKey } from './defaulted-keys.js';
import { endFaults, type EndFault } from './dangling-ends.js';
import { AuditGround } from './ground.js';
import { wrongLiterals, type Literal } from './literals.js';
import { liveness, type Liveness } from './live.js';
import { holdings, type Holding } from './peers.js';
import { spawnGaps } from './spawn-gaps.js';

/** What rules look at. Whatever several rules need is worked out once, when first asked for. */
export class AuditContext extends AuditGround {
  get components(): Components {
    return this.once('components', () => stronglyConnected(this.g));
  }
  get chains(): Chains {
    return this.once('chains', () => chainLengths(this.g, this.components));
  }
  get fanOut(): Int32Array {
    return this.once('fanOut', () => fanOuts(this.g));
  }
  get cycleGroups(): CycleGroup[] {
    return this.once('cycleGroups', () => cycleGroups(this.g, this.components));
  }
  get endFaults(): EndFault[] {
    return this.once('endFaults', () => endFaults(this));
  }
  get spawnGaps(): Int32Array {
    return this.once('spawnGaps', () => spawnGaps(this));
  }
  get wrongLiterals(): Literal[] {
    return this.once('wrongLiterals', () => wrongLiterals(this));
  }
  get defaultedKeys(): DefaultedKey[] {
    return this.once('defaultedKeys', () => defaultedKeys(this));
  }
  /** Which peer keeps and which steers each instance. */
  get holding(): Holding {
    return this.once('holding', () => holdings(this.x));
  }
  /** What can be brought about while things sleep; says also who cannot be awake. */
  get awake(): Liveness {
    return this.once('awake', () => liveness(this.g, true));
  }
}
