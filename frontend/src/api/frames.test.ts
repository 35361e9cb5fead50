import { expect, test } from "vitest";
import { NewestOnly } from "@/api/frames";

/** A worker whose steps end when the test says so. */
function slowWorker() {
  const begun: number[] = [];
  let release: () => void = () => undefined;
  const work = (value: number) => {
    begun.push(value);
    return new Promise<void>((resolve) => {
      release = resolve;
    });
  };
  const finish = async () => {
    release();
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { begun, work, finish };
}

test("one request is under way at a time, and only the newest one waits", async () => {
  const { begun, work, finish } = slowWorker();
  const requests = new NewestOnly(work);

  for (const value of [1, 2, 3, 4]) requests.push(value);
  expect(begun).toEqual([1]);
  await finish();
  expect(begun).toEqual([1, 4]);
  await finish();

  expect(begun).toEqual([1, 4]);
});

test("a request after a pause is sent at once", async () => {
  const { begun, work, finish } = slowWorker();
  const requests = new NewestOnly(work);

  requests.push(1);
  await finish();
  requests.push(2);

  expect(begun).toEqual([1, 2]);
});
