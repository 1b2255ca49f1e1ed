import { reportDeliveries } from '../report-deliveries.js';
import { defineRule } from '../rule.js';

export const pauseDeaf = defineRule<'deaf'>({
  meta: {
    name: 'pause-deaf',
    severity: 'warning',
    group: 'correctness',
    what: 'An event that is raised while the game is paused goes to a receiver that is paused too.',
    why: 'The receiver does not react while the game is paused.',
    cure: 'Let the receiver run during a pause, or do not raise the event then.',
  },
  messages: { deaf: '{at} raises {event} also during a pause, but {receiver} does not run then' },
  check(ctx, report) {
    reportDeliveries(ctx, report, 'deaf', {
      name: 'pause-deaf',
      concerns: (event) => event.raisedInPause === true,
      isWrong: (_event, _sender, receiver) => ctx.x.assetOf(receiver).decl.runsInPause !== true,
    });
  },
});
