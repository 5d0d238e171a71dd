"""The scheduler's side of a large audit: as many tasks as a share of it has, of the length that batches have.

Real scheduler and workers, all on this machine, tasks that sleep: what is left of the workers' time once the scheduler
has handed work out and the results were taken? ``python bench/auditing_cluster.py [--machines N] [--cores N]``
"""

from __future__ import annotations

import argparse
import time
from concurrent.futures import FIRST_COMPLETED, Future, wait

from distributed import LocalCluster

AHEAD = 3  # as in an audit
RESULTS = [("name", "hash", "damaged", [("elements/unwrap", 3, 3, 1, 1, "x" * 120)] * 5)] * 10


def batch(markup: str, seconds: float) -> list[object]:
    """Take as long as a batch, and return as much."""
    time.sleep(seconds)
    return list(RESULTS)


if __name__ == "__main__":
    parser = argparse.ArgumentParser()
    parser.add_argument("--machines", type=int, default=10)
    parser.add_argument("--cores", type=int, default=4)
    parser.add_argument("--seconds", type=float, default=0.55, help="that a batch of 60,000 characters takes")
    parser.add_argument("--tasks", type=int, default=3000)
    options = parser.parse_args()
    cores = options.machines * options.cores
    with (
        LocalCluster(
            n_workers=options.machines, threads_per_worker=options.cores, processes=False, dashboard_address=None
        ) as cluster,
        cluster.get_client() as client,
    ):
        executor = client.get_executor(pure=False)
        markup = "x" * 60_000
        begun = time.perf_counter()
        under_way: set[Future[list[object]]] = set()
        for _ in range(options.tasks):
            under_way.add(executor.submit(batch, markup, options.seconds))
            while len(under_way) >= cores * AHEAD:
                under_way = wait(under_way, return_when=FIRST_COMPLETED).not_done
        wait(under_way)
        took = time.perf_counter() - begun
    ideal = options.tasks * options.seconds / cores
    print(
        f"{options.tasks} batches of {options.seconds} s on {options.machines} machines of {options.cores} cores: "
        f"{took:.1f} s, {ideal / took:.0%} of what {cores} cores could do; {options.tasks / took:.0f} batches a second"
    )
