import { QueryObserver } from '@tanstack/react-query';
import { expect, test } from 'vitest';
import { FreshQueries } from './queries';

test('what was asked before a change and answered after it is asked again', async () => {
  const answers: ((value: string) => void)[] = [];
  const client = new FreshQueries();
  const observer = new QueryObserver(client, {
    queryKey: ['projects'],
    queryFn: () => new Promise<string>((answer) => answers.push(answer)),
  });
  const leave = observer.subscribe(() => undefined);
  const done = client.invalidateQueries({ queryKey: ['projects'] });
  answers[0]?.('as it was');
  await expect.poll(() => answers.length).toBe(2);
  answers[1]?.('as it is');
  await done;
  expect(observer.getCurrentResult().data).toBe('as it is');
  leave();
});
