import { Inject, Injectable } from '@nestjs/common';
import type { NextFunction, Request, Response } from 'express';
import { createServer, type Server } from 'node:http';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import { Database } from './database/database.js';
import { HeavyService } from './heavy/heavy.service.js';
import { Presence } from './collaboration/presence.js';

/** Seconds. */
const BUCKETS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30];

/** Figures for Prometheus. Of a request stand its route and status in them, never an id or a name. */
@Injectable()
export class Metrics {
  private readonly registry = new Registry();
  private readonly requests: Histogram<'method' | 'route' | 'status'>;
  private readonly edits: Counter;

  constructor(
    @Inject(Database) db: Database,
    @Inject(HeavyService) heavy: HeavyService,
    @Inject(Presence) presence: Presence,
  ) {
    const registers = [this.registry];
    // The process and its event loop.
    collectDefaultMetrics({ register: this.registry });
    this.requests = new Histogram({
      name: 'oquel_request_seconds',
      help: 'Requests by route and status, streams left out',
      labelNames: ['method', 'route', 'status'],
      buckets: BUCKETS,
      registers,
    });
    this.edits = new Counter({ name: 'oquel_edits_total', help: 'Edits that were stored', registers });
    const gauge = (name: string, help: string, value: () => number): void => {
      new Gauge({
        name,
        help,
        registers,
        collect() {
          this.set(value());
        },
      });
    };
    gauge('oquel_pool_connections', 'Connections to the database', () => db.pool.totalCount);
    gauge('oquel_pool_idle', 'Connections that nobody uses', () => db.pool.idleCount);
    gauge('oquel_pool_waiting', 'Requests that wait for a connection', () => db.pool.waitingCount);
    gauge('oquel_heavy_tasks', 'Audits and whole documents that run or wait', () => heavy.count);
    gauge('oquel_streams', 'Open streams of events', () => presence.streams);
  }

  /** Measures requests. */
  measure = (request: Request, response: Response, next: NextFunction): void => {
    const end = this.requests.startTimer();
    response.once('finish', () => {
      if (String(response.getHeader('Content-Type')).includes('event-stream')) return;
      const { path = 'none' } = (request.route ?? {}) as { path?: string };
      const { method } = request;
      end({ method, route: path, status: response.statusCode });
      if (method === 'POST' && response.statusCode === 201 && path.endsWith('/edits')) this.edits.inc();
    });
    next();
  };
  text(): Promise<string> {
    return this.registry.metrics();
  }
  /** Serves them on loopback, on a port of their own: nobody has to sign in there, and nobody comes there from outside. */
  async serve(port: number): Promise<Server> {
    const server = createServer((request, response) => {
      if (request.method !== 'GET' || request.url !== '/metrics') {
        response.writeHead(404).end();
        return;
      }
      this.text().then(
        (text) => response.writeHead(200, { 'Content-Type': this.registry.contentType }).end(text),
        () => response.writeHead(500).end(),
      );
    });
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject).listen(port, '127.0.0.1', resolve);
    });
    return server;
  }
}
