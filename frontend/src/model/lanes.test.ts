import { expect, test } from "vitest";
import { InOrder, Lanes } from "@/model/lanes";

test("no more tasks than there are lanes run at once, and all of them in the end", async () => {
  const lanes = new Lanes(2);
  let running = 0;
  let most = 0;
  const begun: number[] = [];

  await Promise.allSettled(
    [0, 1, 2, 3, 4].map((task) =>
      lanes.run(async () => {
        begun.push(task);
        running += 1;
        most = Math.max(most, running);
        await new Promise((resolve) => setTimeout(resolve, 1));
        running -= 1;
        if (task === 1) throw new Error("one fails");
      }),
    ),
  );

  expect(most).toBe(2);
  expect(begun).toEqual([0, 1, 2, 3, 4]);
});

test("results are handed on in the order of their places", () => {
  const handed: string[] = [];
  const results = new InOrder<string>((result) => handed.push(result));

  results.put(2, "c");
  results.put(1, null);
  expect(handed).toEqual([]);
  results.put(0, "a");
  results.put(1, "b after all");
  results.put(3, "d");

  expect(handed).toEqual(["a", "c", "b after all", "d"]);
});
