"""Verbs about the data file: backups, damage, packages of studies, and who may come in."""

import argparse
import json
from dataclasses import asdict
from pathlib import Path

from zesty_grid.core.refusal import Refusal

DEFAULT_DATA = Path.home() / ".local" / "share" / "zesty-grid" / "zesty-grid.db"


def add_file_verbs(verbs: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    backup = verbs.add_parser("backup", help="copy the data file while it is in use")
    backup.add_argument("target", type=Path, metavar="FILE")
    backup.set_defaults(run=_backup)

    restore = verbs.add_parser("restore", help="put a backup in the place of the data file")
    restore.add_argument("source", type=Path, metavar="FILE")
    restore.set_defaults(run=_restore)

    check = verbs.add_parser("check", help="look for damage in a data file")
    check.add_argument("--quick", action="store_true", help="its pages only, not what they say")
    check.set_defaults(run=_check)

    rescue = verbs.add_parser("rescue", help="save all that is readable into a new file")
    rescue.add_argument("source", type=Path, metavar="DAMAGED")
    rescue.add_argument("--out", type=Path, required=True, metavar="NEW")
    rescue.set_defaults(run=_rescue)

    export = verbs.add_parser("export", help="studies as a package in open formats")
    export.add_argument("studies", nargs="*", metavar="STUDY", help="number or name; none: all")
    export.add_argument("--out", type=Path, required=True, metavar="FOLDER|FILE.zip")
    export.set_defaults(run=_export)

    take = verbs.add_parser("import", help="take the studies of a package in")
    take.add_argument("package", type=Path, metavar="FOLDER|FILE.zip")
    take.add_argument("--look", action="store_true", help="say what would happen, change nothing")
    take.set_defaults(run=_import)

    access = verbs.add_parser("access", help="make or revoke the code that lets devices in")
    access.add_argument("--guest", action="store_true", help="the code that only looks")
    access.add_argument("--revoke", action="store_true", help="of a guest: nobody comes in with it")
    access.set_defaults(run=_access)

    for verb in (backup, restore, check, export, take, access):
        verb.add_argument("--data", type=Path, default=DEFAULT_DATA)


def must_exist(path: Path) -> None:
    if not path.is_file():
        raise Refusal("no-such-file", f"There is no data file at {path}.", "Name it with --data.")


def _backup(options: argparse.Namespace) -> None:
    import sqlite3

    from zesty_grid.store.opening import must_be_ours, refusal_for
    from zesty_grid.store.safekeeping import backup, check

    must_exist(options.data)
    must_be_ours(options.data)
    try:
        backup(options.data, options.target)
    except sqlite3.Error as error:
        raise refusal_for(error, options.data) from error
    faults = check(options.target)
    print(json.dumps({"backup": str(options.target), "faults": faults}))
    if faults:
        raise SystemExit(2)


def _restore(options: argparse.Namespace) -> None:
    from zesty_grid.store.restoring import restore_file

    kept = restore_file(options.data, options.source)
    print(json.dumps({"restored": str(options.data), "kept": str(kept) if kept else None}))


def _check(options: argparse.Namespace) -> None:
    from zesty_grid.store.safekeeping import check

    must_exist(options.data)
    faults = check(options.data, quick=options.quick)
    print(json.dumps({"file": str(options.data), "faults": faults}))
    if faults:
        raise SystemExit(2)


def _rescue(options: argparse.Namespace) -> None:
    from zesty_grid.store.rescue import rescue

    must_exist(options.source)
    print(json.dumps(asdict(rescue(options.source, options.out))))


def _export(options: argparse.Namespace) -> None:
    from zesty_grid.api.packages import write_package
    from zesty_grid.store.opening import open_data

    must_exist(options.data)
    if options.out.exists() and (options.out.is_file() or any(options.out.iterdir())):
        raise Refusal("file-exists", f"{options.out} exists already.", "Name a new one.")
    ids = write_package(open_data(options.data), options.studies, options.out)
    print(json.dumps({"package": str(options.out), "studies": ids}))


def _import(options: argparse.Namespace) -> None:
    from zesty_grid.api.packages import take_package
    from zesty_grid.store.opening import open_data

    if not options.package.exists():
        raise Refusal("no-such-file", f"There is nothing at {options.package}.", "Name a package.")
    store = open_data(options.data)
    report = take_package(store, options.package, options.package.name, options.look)
    print(report.model_dump_json())


def _access(options: argparse.Namespace) -> None:
    from zesty_grid.core.record.access import CodeKind
    from zesty_grid.store.access import make_code, revoke_code
    from zesty_grid.store.opening import open_data

    must_exist(options.data)
    kind: CodeKind = "guest" if options.guest else "full"
    if options.revoke and not options.guest:
        raise Refusal("last-code", "Without the full code nobody could come in.", "Make a new one: leave --revoke out.")
    with open_data(options.data).transaction() as connection:
        if options.revoke:
            revoke_code(connection, "guest")
            print(json.dumps({"kind": "guest", "code": None}))
        else:
            print(json.dumps({"kind": kind, "code": make_code(connection, kind)}))
