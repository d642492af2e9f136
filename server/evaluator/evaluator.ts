import { type Money, takeMoney } from "../../core/design/money";
import { parentPort } from "node:worker_threads";
import { glanceAt } from "../../core/glance";
import { type Answer, type Task, judged } from "./judged";

/** Evaluates designs, one after the other, in a thread of its own. */
parentPort?.on("message", ({ id, task, money }: { id: number; task: Task; money: Money }) => {
  takeMoney(money);
  let answer: Answer;
  try {
    answer = task.kind === "judge" ? { judged: judged(task.design) } : { glance: glanceAt(task.design) };
  } catch (error) {
    answer = { failed: String(error) };
  }
  parentPort?.postMessage({ id, answer });
});
