import { reportDeliveries } from '../report-deliveries.js';
import { defineRule } from '../rule.js';

export const pauseDeaf = defineRule<'deaf'>({
  meta: {
    name: 'pause-deaf',
    severity: 'warning',
    group: 'correctness',
    what: 'An event that is raised while the game is paused goes to something that does not run then.',
    why: 'It answers nothing as long as the game is paused.',
    cure: 'Let the receiver run in pause, or do not raise the event then.',
  },
  messages: { deaf: '{at} says {event} also in pause, and {receiver} does not run then' },
  check(ctx, report) {
    reportDeliveries(ctx, report, 'deaf', {
      name: 'pause-deaf',
      concerns: (event) => event.raisedInPause === true,
      isWrong: (_event, _sender, receiver) => ctx.x.assetOf(receiver).decl.runsInPause !== true,
    });
  },
});
