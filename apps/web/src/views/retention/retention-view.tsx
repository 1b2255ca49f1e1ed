import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { amountsOlder, removeOlder, type Ages } from '../../api/retention.js';
import { bytesText } from '../../format.js';
import { Failure } from '../../parts/team/failure.js';
import { TeamPage } from '../../parts/team/page.js';
import { AgeField, daysOf } from './age-field.js';
import { AmountsTable } from './amounts-table.js';
import { amountText, totalOf } from './amounts.js';

/** What has grown old, and its removal: how much of it there is, and what stays, is said before. */
export function RetentionView(): ReactNode {
  const queries = useQueryClient();
  const [history, setHistory] = useState('365');
  const [builds, setBuilds] = useState('365');
  const [isAsked, setAsked] = useState(false);
  const ages: Ages = { history: daysOf(history) ?? undefined, builds: daysOf(builds) ?? undefined };
  const isWrong = daysOf(history) === null || daysOf(builds) === null;
  const { data, error, refetch } = useQuery({
    queryKey: ['retention', ages.history, ages.builds],
    queryFn: () => amountsOlder(ages),
    placeholderData: keepPreviousData,
    enabled: !isWrong,
    retry: 1,
  });
  const removal = useMutation({
    mutationFn: () => removeOlder(ages),
    onSettled: () => {
      setAsked(false);
      return queries.invalidateQueries({ queryKey: ['retention'] });
    },
  });
  const going = totalOf(data ?? []);
  const isNothing = going.history.going + going.builds.going === 0;
  const set = (put: (text: string) => void) => (text: string) => {
    setAsked(false);
    removal.reset();
    put(text);
  };
  return (
    <TeamPage title="Retention">
      <p>Old edits and builds can be removed for good. The projects themselves stay as they are.</p>
      <AgeField
        label="Remove edits from the history after"
        stays="Stays: the last 100 edits of each project. What was removed can no longer be undone or read."
        text={history}
        onText={set(setHistory)}
      />
      <AgeField
        label="Remove builds after"
        stays="Stays: the newest build of each project, and every build that is approved."
        text={builds}
        onText={set(setBuilds)}
      />
      {error && (
        <p className="row">
          <Failure of={error} />
          <button type="button" className="word" onClick={() => void refetch()}>
            Try again
          </button>
        </p>
      )}
      <Failure of={removal.error} />
      {removal.isSuccess && (
        <p role="status">{amountText(totalOf(removal.data))} removed. What is left is listed below.</p>
      )}
      {data && !isWrong && (
        <p className="row">
          {isNothing ? (
            <span>Nothing is that old.</span>
          ) : isAsked || removal.isPending ? (
            <>
              <b>This cannot be undone.</b>
              <button
                type="button"
                className="tick"
                // What is asked stands where the button was that asked it.
                autoFocus
                disabled={removal.isPending}
                onClick={() => removal.mutate()}
              >
                {removal.isPending ? 'Removing ...' : `Remove ${amountText(going)} for good`}
              </button>
              <button
                type="button"
                className="word"
                disabled={removal.isPending}
                onClick={() => setAsked(false)}
              >
                Keep them
              </button>
            </>
          ) : (
            <button type="button" className="tick" onClick={() => setAsked(true)}>
              Remove {amountText(going)} ({bytesText(going.history.bytes + going.builds.bytes)}) ...
            </button>
          )}
        </p>
      )}
      {!data && !error && <p className="soft">Loading ...</p>}
      {data && data.length === 0 && <p className="soft">There is no project yet.</p>}
      {data && data.length > 0 && <AmountsTable projects={data} />}
    </TeamPage>
  );
}
