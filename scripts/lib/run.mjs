import { spawn } from 'node:child_process';

/** Runs a command with its output shown; resolves to its exit code. */
export function run(command, args, options = {}) {
  return ended(spawn(command, args, { stdio: 'inherit', ...options }));
}
function ended(child) {
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });
}

/** The same, ended after a limit in milliseconds, with everything that it started. */
export async function runWithin(limit, command, args, options = {}) {
  const child = spawn(command, args, { stdio: 'inherit', detached: true, ...options });
  const end = (signal) => process.kill(-child.pid, signal);
  const late = setTimeout(() => end('SIGKILL'), limit);
  // Of a group of its own, it does not hear the terminal.
  const interrupted = () => {
    end('SIGTERM');
    process.exit(130);
  };
  process.once('SIGINT', interrupted).once('SIGTERM', interrupted);
  try {
    return await ended(child);
  } finally {
    clearTimeout(late);
    process.off('SIGINT', interrupted).off('SIGTERM', interrupted);
  }
}

/** Runs a command quietly; resolves to its exit code and all that it wrote. */
export function capture(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], ...options });
    let output = '';
    child.stdout.on('data', (chunk) => (output += chunk));
    child.stderr.on('data', (chunk) => (output += chunk));
    child.on('error', reject);
    child.on('close', (code) => resolve({ code: code ?? 1, output }));
  });
}

export function sleep(ms) {
  return new Promise((resolve) => setTimeout(resolve, ms));
}
