const tides = ["Saturday: 06:12", "Sunday: 06:58", "Monday: 07:41"];
let shown = 0;
document.querySelector(".tide-clock-next").addEventListener("click", () => {
  shown = (shown + 1) % tides.length;
  document.querySelector(".tide-clock-now").textContent = `Low water on ${tides[shown]}`;
});
