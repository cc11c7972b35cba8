-- The content database of the Korrin Bay demo. It belongs to the demo site; Ylema reaches it only
-- through its content source, as it would reach any other site's.

drop table if exists entries, revisions, media, banners, banner_sets, slots, parts, layouts, galleries, styles, settings, redirects
    cascade;

create table media (
    id serial primary key,
    path text not null unique,
    title text not null default '',
    alt text not null default '',
    caption text not null default '',
    credit text not null default '',
    folder text not null default '',
    tags text not null default '[]',
    width integer,
    height integer,
    renditions text not null default '[]',
    focus_x real,
    focus_y real
);

create table entries (
    id serial primary key,
    type text not null check (type in ('page', 'post')),
    slug text not null unique,
    title text not null,
    body text not null,
    layout text not null,
    featured_id integer,
    extras text,
    blocks text,
    state text not null default 'published' check (state in ('published', 'draft', 'bin')),
    published_at timestamptz,
    expires_at timestamptz
);

create table revisions (
    id serial primary key,
    entry_id integer not null,
    body text not null,
    made_at timestamptz not null
);

create table banners (
    id serial primary key,
    name text not null,
    picture_id integer,
    link text,
    starts_on date,
    ends_on date,
    view_cap integer,
    views integer not null default 0,
    clicks integer not null default 0,
    enabled boolean not null default true
);

create table banner_sets (
    id serial primary key,
    name text not null,
    banners text not null,
    mode text not null,
    seconds integer not null
);

create table slots (
    id serial primary key,
    name text not null unique,
    region text not null,
    width integer not null,
    height integer not null,
    shows_kind text not null check (shows_kind in ('set', 'banner')),
    shows_id integer not null
);

create table parts (name text primary key, body text not null);
create table layouts (name text primary key, parts text not null, styles text not null);
create table galleries (id serial primary key, name text not null, items text not null);
create table styles (name text primary key, css text not null);
create table settings (name text primary key, value text not null);

-- Where pages were that are elsewhere now; the site sends visitors on.
create table redirects (
    id serial primary key,
    old_path text not null unique,
    new_path text not null default '',
    code integer not null default 301
);
