import { reportDeliveries, type IsWrong } from '../report-deliveries.js';
import { defineRule } from '../rule.js';

export const pauseDeaf = defineRule<'deaf'>({
  meta: {
    name: 'pause-deaf',
    severity: 'warning',
    group: 'correctness',
    what: 'An event that is raised while the game is paused goes to a receiver that is paused too.',
    why: 'The receiver does not react while the game is paused.',
    fix: 'Let the receiver run during a pause, or do not raise the event then.',
  },
  messages: { deaf: '{at} raises {event} also during a pause, but {receiver} does not run then' },
  parts: [
    {
      unit: 'event',
      after: ['deliveries'],
      concerns: (event) => event.raisedInPause === true,
      check(inputs, unit, report) {
        const isWrong: IsWrong = (_event, _sender, receiver) =>
          inputs.x.assetOf(receiver).decl.runsInPause !== true;
        reportDeliveries(inputs, unit, 'deaf', isWrong, report);
      },
    },
  ],
});
