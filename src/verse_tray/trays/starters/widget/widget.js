const tides = ["Saturday: 06:12", "Sunday: 06:58", "Monday: 07:41"];
let tideShown = 0;
document.querySelector(".tide-widget-next").addEventListener("click", () => {
  tideShown = (tideShown + 1) % tides.length;
  document.querySelector(".tide-widget-now").textContent = `Low water on ${tides[tideShown]}`;
});
