
"use strict";
const slider = document.querySelector("input");
const pair = document.querySelector(".pair");
const captions = [...document.querySelectorAll(".captions span")].map((one) => one.textContent);
const show = (share) => {
  pair.style.setProperty("--at", `${share}%`);
  slider.setAttribute("aria-valuetext", `${Math.round(share)} % ${captions[0]}`);
};
const follow = (event) => {
  const box = pair.getBoundingClientRect();
  const share = Math.min(Math.max(((event.clientX - box.left) / box.width) * 100, 0), 100);
  slider.value = String(share);
  show(share);
};
slider.addEventListener("input", () => show(Number(slider.value)));
slider.addEventListener("pointerdown", (event) => {
  slider.setPointerCapture(event.pointerId);
  follow(event);
});
slider.addEventListener("pointermove", (event) => {
  if (event.buttons) follow(event);
});
show(50);
