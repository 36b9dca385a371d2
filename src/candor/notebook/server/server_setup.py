"""Making a notebook on a server, and the people who write in it: what whoever keeps the server does once."""

from __future__ import annotations

import re
import uuid
from typing import Any

import psycopg
from psycopg import errors, sql

from candor.core.worded import worded
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.server.server_errors import ServerAwayError, ServerRefusedError
from candor.notebook.server.server_link import conninfo_of
from candor.notebook.server.server_schema import FORM, FUNCTIONS, GRANTS, GROUPS, ROLES, SCHEMA, TABLES

_PERSON = re.compile(r"[a-z][a-z0-9_.-]{0,40}")


def _said(error: psycopg.Error) -> NotebookError:
    said = (error.diag.message_primary or str(error)).strip().splitlines()[0]
    if isinstance(error, psycopg.OperationalError) and error.sqlstate is None:
        return ServerAwayError(worded("server.does_not_answer", name="the server", said=said))
    return ServerRefusedError(worded("server.refused", name="The server", said=said))


def prepare(url: str) -> str:
    """Make an empty notebook in the database at `url`, with its roles, all or nothing; return its own id.

    Raises
    ------
    NotebookError
        Where there is one already, the database is not kept in UTF-8, or who asks may not.
    """
    id = uuid.uuid4().hex
    try:
        with psycopg.connect(conninfo_of(url)) as connection:
            coding = connection.info.parameter_status("server_encoding") or ""
            if coding != "UTF8":
                raise NotebookError(worded("server.is_not_in_utf_8", coding=coding), value=coding)
            for name, member_of in GROUPS:
                _make_group(connection, name, member_of)
            try:
                for line in (*TABLES, *FUNCTIONS, *GRANTS):
                    connection.execute(line.encode())
            except errors.DuplicateSchema:
                raise NotebookError(worded("server.holds_one_already"), value=SCHEMA) from None
            connection.execute("insert into candor.notebook (id, form) values (%s, %s)", (id, FORM))
    except psycopg.Error as error:
        raise _said(error) from None
    return id


def _make_group(connection: psycopg.Connection[Any], name: str, member_of: str) -> None:
    """Make a group where it is not there: groups belong to the server, and may be of another notebook on it already."""
    if not connection.execute("select 1 from pg_roles where rolname = %s", (name,)).fetchone():
        connection.execute(sql.SQL("create role {}").format(sql.Identifier(name)))
    if member_of:
        connection.execute(sql.SQL("grant {} to {}").format(sql.Identifier(member_of), sql.Identifier(name)))


def put_person(url: str, name: str, role: str, password: str = "") -> None:
    """Let a person of the shop in, in a role of ROLES; one who is there changes role, and the password where one is given.

    Raises
    ------
    NotebookError
    """
    if role not in ROLES:
        raise NotebookError(worded("server.is_no_role", role=role, listed=", ".join(ROLES)), value=role)
    if not _PERSON.fullmatch(name) or name in ROLES.values():
        raise NotebookError(worded("server.is_no_name_of_a_person", name=name), value=name)
    who = sql.Identifier(name)
    try:
        with psycopg.connect(conninfo_of(url)) as connection:
            if not connection.execute("select 1 from pg_roles where rolname = %s", (name,)).fetchone():
                connection.execute(sql.SQL("create role {} login").format(who))
            if password:
                # Hashed here: the password itself is neither sent nor logged.
                hashed = connection.pgconn.encrypt_password(
                    password.encode(), name.encode(), b"scram-sha-256"
                ).decode()
                connection.execute(sql.SQL("alter role {} login password {}").format(who, sql.Literal(hashed)))
            for other in ROLES.values():
                connection.execute(sql.SQL("revoke {} from {}").format(sql.Identifier(other), who))
            connection.execute(sql.SQL("grant {} to {}").format(sql.Identifier(ROLES[role]), who))
    except psycopg.Error as error:
        raise _said(error) from None


def people(url: str) -> tuple[tuple[str, str], ...]:
    """Return who may write or read, and in which role: the highest of each. Raises NotebookError."""
    asked = (
        "select m.rolname, g.rolname from pg_auth_members a join pg_roles m on m.oid = a.member "
        "join pg_roles g on g.oid = a.roleid where g.rolname = any(%s) and m.rolcanlogin order by m.rolname"
    )
    named = {group: role for role, group in ROLES.items()}
    try:
        with psycopg.connect(conninfo_of(url)) as connection:
            found = connection.execute(asked.encode(), (list(named),)).fetchall()
    except psycopg.Error as error:
        raise _said(error) from None
    return tuple((str(who), named[str(group)]) for who, group in found)
