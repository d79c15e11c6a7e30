"""What declarations of options say."""
import argparse
import pathlib

import click


def berth_number(text: str) -> int:
    return int(text)


@click.command()
@click.option("--port", "-p", required=True)
@click.option("--berth", type=int, default=3)
@click.option("--tide", type=float)
@click.option("--calm/--rough", default=True)
@click.option("-v", "--verbose", count=True)
@click.option("--stop-at", "stops", multiple=True)
@click.option("--side", type=click.Choice(["port", "starboard"]), default="port")
@click.option("--dry", is_flag=True)
@click.argument("vessel")
@click.argument("others", nargs=-1)
@click.pass_context
def sail(context, port, berth, tide, calm, verbose, stops, side, dry, vessel, others):  #= port: str fair declarations; berth: int fair declarations; tide: float | None fair declarations; calm: bool fair declarations; verbose: int fair declarations; stops: tuple[str, ...] fair declarations; side: str fair declarations; dry: bool fair declarations; vessel: str fair declarations; others: tuple[str, ...] fair declarations
    pass


def load(cars, lanes, deck, weights, log, number):  #= cars: int fair calls; lanes: str | None low calls; deck: bool fair calls; weights: list[float] fair calls; log: pathlib.Path fair calls; number: int fair calls
    pass


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--cars", type=int, default=3)
    parser.add_argument("-l", "--lanes")
    parser.add_argument("--deck", action="store_true")
    parser.add_argument("weights", type=float, nargs="*")
    parser.add_argument("--log-file", dest="log", type=pathlib.Path, required=True)
    parser.add_argument("--number", type=berth_number, default=1)
    args = parser.parse_args()
    load(args.cars, args.lanes, args.deck, args.weights, args.log, args.number)
