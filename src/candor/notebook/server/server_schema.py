"""The tables of a notebook on a PostgreSQL server, and who may do what there.

Ink stays ink by the server's own word: nobody is granted to change or delete an entry; the server numbers entries without gaps,
puts their links into the chain and says who wrote; two entries cannot follow the same one. Only a signer's certificates are taken.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

FORM: Final = 1  # of these tables: a server of a newer one is refused
SCHEMA: Final = "candor"
CHANNEL: Final = "candor_written"
ONE_WRITER: Final = (
    7_266_311_905  # the advisory lock that whoever writes holds to the end: the entries are one row of people
)

GUEST, BENCH, SIGNER, KEEPER = "candor_guest", "candor_bench", "candor_signer", "candor_keeper"
ROLES: Final[Mapping[str, str]] = {"guest": GUEST, "bench": BENCH, "signer": SIGNER, "keeper": KEEPER}
SIGNED: Final = ("certificate", "second_signature")  # kinds of entries that only a signer writes

TABLES: Final = (
    f"create schema {SCHEMA}",
    f"create table {SCHEMA}.notebook (only_one boolean primary key default true check (only_one), id text not null, "
    "form integer not null)",
    f"create table {SCHEMA}.entries (number bigint primary key, id text not null unique, job text not null, kind text not null, "
    "at text not null, who text not null, body text not null, before text not null, chain text not null, unique (job, before))",
    f"create index entries_of_job on {SCHEMA}.entries (job, number desc)",
    f"create table {SCHEMA}.packs (number bigint generated always as identity primary key, digest text not null unique, "
    "id text not null, edition text not null, body text not null)",
    f"create table {SCHEMA}.files (number bigint primary key, folder text not null, name text not null, digest text not null, "
    "size bigint not null, unique (folder, name, digest))",
    f"create table {SCHEMA}.pieces (digest text not null, place integer not null, bytes bytea not null, "
    "primary key (digest, place))",
    # Who is at what: one row a bench, told anew while it is there; the server's own list says which benches still are.
    f"create table {SCHEMA}.benches (backend integer primary key, who text not null default session_user, bench text not null, "
    "job text not null, stop text not null, held text[] not null default '{}', since timestamptz not null default now(), "
    "told timestamptz not null default now())",
)

# The link is made by the server, of the bytes that `storage.chain.chained` takes: a client can neither leave one out nor fork one.
FUNCTIONS: Final = (
    f"""
    create function {SCHEMA}.field(text) returns text immutable language sql as
    $$ select octet_length(convert_to($1, 'UTF8')) || ':' || $1 $$
    """,
    f"""
    create function {SCHEMA}.link() returns trigger language plpgsql security definer set search_path = pg_catalog as $$
    begin
        perform pg_advisory_xact_lock({ONE_WRITER});
        if not pg_has_role(session_user, '{KEEPER}', 'member') then
            new.who := session_user;
        end if;
        if new.kind in {SIGNED!r} and not pg_has_role(session_user, '{SIGNER}', 'member') then
            raise exception 'only a signer signs' using errcode = 'insufficient_privilege';
        end if;
        select coalesce(max(number), 0) + 1 into new.number from {SCHEMA}.entries;
        new.before := coalesce(
            (select chain from {SCHEMA}.entries where job = new.job order by number desc limit 1), '');
        new.chain := encode(sha256(convert_to(
            new.before || {SCHEMA}.field(new.id) || {SCHEMA}.field(new.job) || {SCHEMA}.field(new.kind)
            || {SCHEMA}.field(new.at) || {SCHEMA}.field(new.who) || {SCHEMA}.field(new.body), 'UTF8')), 'hex');
        return new;
    end $$
    """,
    f"""
    create function {SCHEMA}.count_files() returns trigger language plpgsql security definer set search_path = pg_catalog as $$
    begin
        perform pg_advisory_xact_lock({ONE_WRITER});
        select coalesce(max(number), 0) + 1 into new.number from {SCHEMA}.files;
        return new;
    end $$
    """,
    f"""
    create function {SCHEMA}.tell() returns trigger language plpgsql set search_path = pg_catalog as $$
    begin
        perform pg_notify('{CHANNEL}', tg_table_name);
        return null;
    end $$
    """,
    f"""
    create function {SCHEMA}.be_at(bench text, job text, stop text, held text[]) returns void
    language sql security definer set search_path = pg_catalog as $$
        delete from {SCHEMA}.benches b where not exists (select 1 from pg_stat_activity a where a.pid = b.backend);
        insert into {SCHEMA}.benches as b (backend, who, bench, job, stop, held)
        values (pg_backend_pid(), session_user, $1, $2, $3, $4)
        on conflict (backend) do update set job = $2, stop = $3, held = $4, told = now(),
            since = case when b.job = $2 then b.since else now() end;
    $$
    """,
    f"create trigger link before insert on {SCHEMA}.entries for each row execute function {SCHEMA}.link()",
    f"create trigger count before insert on {SCHEMA}.files for each row execute function {SCHEMA}.count_files()",
    *(
        f"create trigger tell after insert on {SCHEMA}.{table} for each statement execute function {SCHEMA}.tell()"
        for table in ("entries", "packs", "files")
    ),
    f"create trigger tell after insert or update on {SCHEMA}.benches for each statement execute function {SCHEMA}.tell()",
)

GRANTS: Final = (
    f"revoke all on schema {SCHEMA} from public",
    f"grant usage on schema {SCHEMA} to {GUEST}",
    f"grant select on all tables in schema {SCHEMA} to {GUEST}",
    f"grant insert on {SCHEMA}.entries, {SCHEMA}.packs, {SCHEMA}.files, {SCHEMA}.pieces to {BENCH}",
    f"revoke all on function {SCHEMA}.be_at(text, text, text, text[]) from public",
    f"grant execute on function {SCHEMA}.be_at(text, text, text, text[]) to {GUEST}",
)

# Each may what the one before it may: groups, that nobody logs in as.
GROUPS: Final = (
    *((name, "") for name in (GUEST,)),
    (BENCH, GUEST),
    (SIGNER, BENCH),
    (KEEPER, SIGNER),
)
