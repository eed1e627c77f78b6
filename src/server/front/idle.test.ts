import { EventEmitter } from 'node:events';
import type { Server } from 'node:http';
import { collectWhenIdle } from './idle';

test('memory is given back once when nothing was asked for a while, and not again until something was', () => {
  jest.useFakeTimers();
  const server = new EventEmitter() as unknown as Server;
  const collect = jest.fn();
  const end = collectWhenIdle(server, collect, 1000);
  jest.advanceTimersByTime(5000);
  expect(collect).not.toHaveBeenCalled();
  for (let n = 0; n < 20; n++) {
    server.emit('request');
    jest.advanceTimersByTime(300);
  }
  expect(collect).not.toHaveBeenCalled();
  jest.advanceTimersByTime(5000);
  expect(collect).toHaveBeenCalledTimes(1);
  server.emit('request');
  jest.advanceTimersByTime(5000);
  expect(collect).toHaveBeenCalledTimes(2);
  end();
  jest.useRealTimers();
});

test('what collects is the engine’s own', () => {
  const end = collectWhenIdle(new EventEmitter() as unknown as Server);
  end();
});
