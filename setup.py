"""Puts the built pages and the example plans into the package when a wheel is built."""

import shutil
from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

HERE = Path(__file__).resolve().parent
SHIPPED = {"web": HERE / "web" / "dist", "examples": HERE / "examples" / "plans"}


class BuildWithPages(build_py):
    """The usual build, and the folders that `oddkettle.shipped` looks for."""

    def run(self) -> None:
        """Build; a wheel without its pages is refused."""
        super().run()
        if self.editable_mode:
            return
        if not (SHIPPED["web"] / "index.html").is_file():
            raise SystemExit("The front end is not built: run `make wheel`, or build it in web/.")
        for name, folder in SHIPPED.items():
            to = Path(self.build_lib) / "oddkettle" / "shipped" / name
            shutil.rmtree(to, ignore_errors=True)
            shutil.copytree(folder, to)


setup(cmdclass={"build_py": BuildWithPages})
