import { monitorEventLoopDelay } from 'node:perf_hooks';

// Loaded into a server that a benchmark starts (--import): the benchmark asks over the process's own channel how late the event loop was since
// it last asked, ms. Delay as Node measures it: how late a timer of 5 ms fires.
const delay = monitorEventLoopDelay({ resolution: 5 });
delay.enable();
const ms = (nanoseconds: number) => Math.max(0, nanoseconds / 1e6 - 5);
process.on('message', (asked) => {
  if (asked !== 'delay') return;
  process.send!({ p50: ms(delay.percentile(50)), p99: ms(delay.percentile(99)), max: ms(delay.max) });
  delay.reset();
});
process.channel?.unref();
