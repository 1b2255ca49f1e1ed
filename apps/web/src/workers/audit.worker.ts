import { expose } from 'comlink';
import { Auditor } from './auditor.js';
import { READY } from './loading-worker.js';

expose(new Auditor());
self.postMessage(READY);
