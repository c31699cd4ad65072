import { inject, Injectable } from '@angular/core';
import { type YardRules, yardRulesSchema } from '@yard-brace/core';
import { Api } from '../api/api';
import { BenchStore } from './bench-store';
import { Notices } from './notices';

/** The rules of the yard, changed from the bench where work shows what they should say. */
@Injectable()
export class BenchRules {
  private readonly bench = inject(BenchStore);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);

  /** What cannot be kept is said, and the rules stay as they were. */
  async change(change: (rules: YardRules) => YardRules): Promise<void> {
    const { id, rules, rulesVersion } = this.bench.piece.yard;
    const next = yardRulesSchema.safeParse(change(rules));
    if (!next.success) {
      this.notices.say(next.error.issues[0]!.message, true);
      return;
    }
    try {
      this.bench.ruled(await this.api.saveRules(id, rulesVersion, next.data));
    } catch (error) {
      this.notices.error(error);
    }
  }
}
