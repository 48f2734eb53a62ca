"""A line-up measured by two workers of a cluster on this machine."""

import dask
from distributed import LocalCluster

from tests.web.cli_case import CliCase

PENS = ("lineup", "reed-ballpoint", "fen-fountain", "heron-brush", "--json")


class OnACluster(CliCase):
    def test_it_is_the_same_bit_for_bit(self) -> None:
        here = self.run_cli(*PENS)[1]
        with (
            dask.config.set({"distributed.worker.daemon": False}),
            LocalCluster(
                n_workers=2, threads_per_worker=1, processes=True, dashboard_address=None, host="127.0.0.1"
            ) as cluster,
        ):
            status, there, said = self.run_cli(*PENS, "--scheduler", cluster.scheduler_address)
        self.assertEqual((status, said), (0, ""))
        self.assertEqual(there, here)

    def test_a_scheduler_that_does_not_answer_is_said(self) -> None:
        for address in ("tcp://127.0.0.1:9", "nowhere"):
            status, out, said = self.run_cli(*PENS, "--scheduler", address)
            self.assertEqual((status, out), (2, ""), address)
            self.assertIn("does not answer", said)
