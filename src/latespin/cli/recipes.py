"""``latespin recipes``: the recipes that ship with Late Spin."""

import click

from latespin.cli.output import echo_json


@click.command()
@click.option("--json", "as_json", is_flag=True, help="Print them as JSON.")
def recipes(as_json: bool) -> None:
    """List the recipes that ship with Late Spin."""
    from latespin.model.text.describe import say_version
    from latespin.render.recipes import shipped_recipes

    shipped = shipped_recipes()
    if as_json:
        rows = [
            {"name": r.name, "title": r.title, "summary": r.summary, "does": say_version(r.stages)} for r in shipped
        ]
        echo_json(rows, 2)
        return
    for recipe in shipped:
        click.echo(f"{recipe.name:16} {recipe.summary}  [{say_version(recipe.stages)}]")
