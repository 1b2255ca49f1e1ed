import { expose } from 'comlink';
import { Auditor } from './auditor.js';

expose(new Auditor());
