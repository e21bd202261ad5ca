-- A text as it is searched: without case and accents. Told to be immutable, as an index demands: the rules of unaccent change with an upgrade of PostgreSQL at most.
CREATE FUNCTION slate.folded(text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE COST 200 AS
$$ SELECT lower(public.unaccent('public.unaccent', $1)) $$;
--> statement-breakpoint
-- All that stands in a record as one text, folded, a line each so that no word is found across two of them.
CREATE FUNCTION slate.words(text[]) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE COST 400 AS
$$ SELECT lower(public.unaccent('public.unaccent', array_to_string($1, E'\n'))) $$;
--> statement-breakpoint
-- What words are like in which these letters are found.
CREATE FUNCTION slate.found_in(text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE AS
$$ SELECT '%' || regexp_replace(slate.folded($1), '([\\%_])', '\\\1', 'g') || '%' $$;
--> statement-breakpoint
-- Values as they are shown. Not in SQL, which PostgreSQL would write out in the statement, and then ask whether it trusts each part (see `trust` in migrate.ts). A day is written `Wed 25 Nov 2026`: to_char could say it too, but not in an index.
CREATE FUNCTION slate.letters(numeric) RETURNS text LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$ BEGIN RETURN $1::text; END $$;
--> statement-breakpoint
CREATE FUNCTION slate.letters(date) RETURNS text LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS
$$ BEGIN RETURN (ARRAY['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'])[extract(isodow from $1)::int] || ' ' || extract(day from $1)::int || ' '
  || (ARRAY['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'])[extract(month from $1)::int] || ' ' || lpad(extract(year from $1)::int::text, 4, '0'); END $$;
--> statement-breakpoint
CREATE FUNCTION slate.letters(time) RETURNS text LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$ BEGIN RETURN left($1::text, 5); END $$;
--> statement-breakpoint
CREATE FUNCTION slate.letters(timestamp) RETURNS text LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$ BEGIN RETURN slate.letters($1::date) || ', ' || slate.letters($1::time); END $$;
--> statement-breakpoint
CREATE FUNCTION slate.ask_words_index(of_table uuid) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.may(of_table, 'see') THEN RAISE EXCEPTION 'not theirs to search' USING ERRCODE = 'TS010'; END IF;
  PERFORM graphile_worker.add_job('words-index', json_build_object('table', of_table), job_key := 'words-index:' || of_table, max_attempts := 2);
END $$;
