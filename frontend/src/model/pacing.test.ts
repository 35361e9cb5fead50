import { expect, test } from "vitest";
import { Pace } from "@/model/pacing";

function after(...frames: number[]): number {
  const pace = new Pace();
  for (const took of frames) pace.took(took);
  return pace.detail;
}

test("frames are half as large at first, and stay so where they keep up", () => {
  expect(after()).toBe(1 / 2);
  expect(after(...Array.from({ length: 50 }, () => 30))).toBe(1 / 2);
});

test("frames that come late become a third, then a quarter, and no smaller", () => {
  expect(after(90, 45, 45, 45)).toBe(1 / 2);
  expect(after(90, 45, 45, 45, 45)).toBe(1 / 3);
  expect(after(...Array.from({ length: 10 }, () => 45))).toBe(1 / 4);
  expect(after(...Array.from({ length: 100 }, () => 45))).toBe(1 / 4);
});

test("one late frame among others changes nothing", () => {
  expect(after(20, 20, 20, 20, 20, 60, 20, 20, 20)).toBe(1 / 2);
});

test("the first frame of a movement has more to do and does not count", () => {
  const pace = new Pace();

  for (let turn = 0; turn < 20; turn += 1) {
    pace.took(400);
    for (const took of [20, 20]) pace.took(took);
    pace.rested();
  }

  expect(pace.detail).toBe(1 / 2);
});

test("frames grow again once they come early", () => {
  const pace = new Pace();
  for (let frame = 0; frame < 10; frame += 1) pace.took(45);
  expect(pace.detail).toBe(1 / 4);

  for (let frame = 0; frame < 5; frame += 1) pace.took(10);
  expect(pace.detail).toBe(1 / 3);
  for (let frame = 0; frame < 20; frame += 1) pace.took(20);
  expect(pace.detail).toBe(1 / 3);
  for (let frame = 0; frame < 40; frame += 1) pace.took(10);

  expect(pace.detail).toBe(1 / 2);
});
