const tides = ["Saturday 06:12", "Sunday 06:58", "12 December 05:31"];
let shown = 0;
document.querySelector(".tide-box-more").addEventListener("click", () => {
  shown = (shown + 1) % tides.length;
  document.getElementById("next-tide").textContent = tides[shown]; // not </script>
});
