/**
 * Starts the engine once for all component tests (`scripts/engine.py`), and ends it with them.
 * Its documents are real: made by the program as it is now, when a test asks.
 */
import { spawn } from "node:child_process";
import { createInterface } from "node:readline";

export default async function startEngine(project) {
  const python = process.env.ODDKETTLE_PYTHON ?? ".venv/bin/python";
  const engine = spawn(python, ["-m", "scripts.engine"], {
    cwd: "..",
    stdio: ["pipe", "pipe", "inherit"],
  });
  const url = await new Promise((found, failed) => {
    createInterface(engine.stdout).once("line", found);
    engine.once("error", failed);
    engine.once("exit", (code) => failed(new Error(`scripts/engine.py ended with ${code}`)));
  });
  project.provide("engine", url);
  return () => {
    engine.removeAllListeners("exit");
    const ended = new Promise((done) => engine.once("exit", done));
    engine.stdin.end();
    return ended;
  };
}
