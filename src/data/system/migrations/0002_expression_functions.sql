-- The expression language in PostgreSQL: what its own operators and functions do differently from src/core/expression.
-- All are pure; src/core/expression/sql says where each is used, and tests/postgres/expression-sql.test.ts compares the two sides.

-- Digits before the point, counted from the first that is not zero: 3 of 123.4, 0 of 0.5, -2 of 0.001.
CREATE FUNCTION slate.leading(n numeric) RETURNS integer LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN length(ltrim(replace(abs(n)::text, '.', ''), '0')) - scale(n);
--> statement-breakpoint
CREATE FUNCTION slate.half_even(n numeric, places integer) RETURNS numeric LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$
DECLARE near numeric := round(n, places); low numeric := trunc(n, places);
BEGIN
  IF near <> low AND n * 2 = near + low AND mod(low, 2 * (near - low)) = 0 THEN RETURN low; END IF;
  RETURN near;
END $$;
--> statement-breakpoint
-- A result brought back to 34 significant digits, half to even; none beyond the exponents of decimal128, 0 below them.
CREATE FUNCTION slate.cut_to_34(n numeric) RETURNS numeric LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$
DECLARE places integer;
BEGIN
  IF n = 0 THEN RETURN 0; END IF;
  n := trim_scale(n);
  places := 34 - slate.leading(n);
  IF scale(n) > places THEN n := slate.half_even(n, places); places := 34 - slate.leading(n); END IF;
  IF places < 34 - 6145 THEN RETURN NULL; END IF;
  IF places > 34 + 6175 THEN RETURN 0; END IF;
  RETURN n;
END $$;
--> statement-breakpoint
-- Nearly all numbers are short. Not strict, so that the planner writes this test into the query instead of calling a function for each row.
CREATE FUNCTION slate.digits34(n numeric) RETURNS numeric LANGUAGE sql IMMUTABLE PARALLEL SAFE
RETURN CASE WHEN abs(n) < 1e17 AND scale(n) <= 17 THEN n ELSE slate.cut_to_34(n) END;
--> statement-breakpoint
-- Divided to 34 digits. The quotient of two numbers of 34 digits is never nearer than 70 digits to a tie without being one.
CREATE FUNCTION slate.divided(a numeric, b numeric) RETURNS numeric LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$
DECLARE up integer; down integer;
BEGIN
  IF b = 0 THEN RETURN NULL; END IF;
  IF a = 0 THEN RETURN 0; END IF;
  IF scale(a) <= 20 AND scale(b) <= 20 AND abs(a) < 1e34 AND abs(b) < 1e34 THEN RETURN slate.digits34(round(a, 150) / b); END IF;
  a := trim_scale(a); b := trim_scale(b);
  up := slate.leading(a); down := slate.leading(b);
  RETURN slate.digits34((slate.digits34(round((a::text || 'e' || -up)::numeric, 150) / (b::text || 'e' || -down)::numeric)::text || 'e' || (up - down))::numeric);
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.root(n numeric) RETURNS numeric LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN CASE WHEN n >= 0 THEN slate.digits34(sqrt(round(n, greatest(scale(n), 150)))) END;
--> statement-breakpoint
-- The rest has the sign of the divisor.
CREATE FUNCTION slate.modulo(a numeric, b numeric) RETURNS numeric LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$
DECLARE rest numeric;
BEGIN
  IF b = 0 THEN RETURN NULL; END IF;
  rest := mod(a, b);
  RETURN slate.digits34(CASE WHEN rest <> 0 AND sign(rest) <> sign(b) THEN rest + b ELSE rest END);
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.rounded(n numeric, to_places numeric, way text) RETURNS numeric LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$
DECLARE places integer; low numeric; unit numeric; away numeric;
BEGIN
  IF to_places <> trunc(to_places) OR to_places > 6176 OR to_places < -6144 THEN RETURN NULL; END IF;
  places := to_places::integer;
  low := trunc(n, places);
  IF low = n THEN RETURN n; END IF;
  unit := ('1e' || -places)::numeric;
  away := low + sign(n) * unit;
  RETURN slate.digits34(CASE way
    WHEN 'down' THEN low WHEN 'up' THEN away
    WHEN 'floor' THEN CASE WHEN n < 0 THEN away ELSE low END
    WHEN 'ceiling' THEN CASE WHEN n < 0 THEN low ELSE away END
    WHEN 'half-up' THEN round(n, places)
    WHEN 'half-even' THEN slate.half_even(n, places)
    WHEN 'half-down' THEN CASE WHEN abs(n - low) * 2 > unit THEN away ELSE low END
  END);
END $$;
--> statement-breakpoint
-- Durations: seconds, or whole months; none beyond ten thousand years.
CREATE FUNCTION slate.as_seconds(n numeric) RETURNS numeric LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN CASE WHEN abs(n) <= 316224000000 THEN n END;
--> statement-breakpoint
CREATE FUNCTION slate.as_months(n numeric) RETURNS numeric LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN CASE WHEN abs(trunc(n)) <= 120000 THEN trunc(n) END;
--> statement-breakpoint
-- Years run from 1 to 9999; PostgreSQL's own calendar ends in 4713 BC with an error, so what would leave ours is never worked out.
CREATE FUNCTION slate.days_on(day date, days numeric) RETURNS date LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN CASE WHEN days + (day - date '0001-01-01') BETWEEN 0 AND 3652058 THEN day + days::integer END;
--> statement-breakpoint
CREATE FUNCTION slate.keeps_calendar(day date, months numeric) RETURNS boolean LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN floor((EXTRACT(YEAR FROM day) * 12 + EXTRACT(MONTH FROM day) - 1 + months) / 12) BETWEEN 1 AND 9999;
--> statement-breakpoint
CREATE FUNCTION slate.seconds_between(later date, earlier date) RETURNS numeric LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN (later - earlier)::numeric * 86400;
--> statement-breakpoint
CREATE FUNCTION slate.seconds_between(later timestamp, earlier timestamp) RETURNS numeric LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN EXTRACT(EPOCH FROM later - earlier);
--> statement-breakpoint
CREATE FUNCTION slate.seconds_between(later time, earlier time) RETURNS numeric LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN EXTRACT(EPOCH FROM later - earlier);
--> statement-breakpoint
-- A part of a day rounds down, since a day that is added hours is still that day.
CREATE FUNCTION slate.seconds_on(day date, seconds numeric) RETURNS date LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN slate.days_on(day, div(seconds, 86400) - CASE WHEN mod(seconds, 86400) < 0 THEN 1 ELSE 0 END);
--> statement-breakpoint
CREATE FUNCTION slate.seconds_on(moment timestamp, seconds numeric) RETURNS timestamp LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$
DECLARE micros numeric := floor(seconds * 1000000); days numeric := floor(round(micros, 12) / 86400000000);
BEGIN
  IF slate.days_on(moment::date, days) IS NULL THEN
    -- Only a part of a day may still bring it back, from the last day before the calendar.
    IF slate.days_on(moment::date, days + 1) IS NULL THEN RETURN NULL; END IF;
  END IF;
  moment := moment + days::float8 * interval '1 day' + (micros - days * 86400000000)::float8 * interval '1 microsecond';
  RETURN CASE WHEN moment >= '0001-01-01' AND moment < '10000-01-01' THEN moment END;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.seconds_on(clock time, seconds numeric) RETURNS time LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$
DECLARE micros numeric := mod(floor((EXTRACT(EPOCH FROM clock) + seconds) * 1000000), 86400000000);
BEGIN
  IF micros < 0 THEN micros := micros + 86400000000; END IF;
  RETURN time '00:00' + micros::float8 * interval '1 microsecond';
END $$;
--> statement-breakpoint
-- The same day of the month, or its last when it is shorter.
CREATE FUNCTION slate.months_on(day date, months numeric) RETURNS date LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN CASE WHEN slate.keeps_calendar(day, months) THEN (day + make_interval(months => months::integer))::date END;
--> statement-breakpoint
CREATE FUNCTION slate.months_on(moment timestamp, months numeric) RETURNS timestamp LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN CASE WHEN slate.keeps_calendar(moment::date, months) THEN moment + make_interval(months => months::integer) END;
--> statement-breakpoint
-- Whole months, cut towards zero.
CREATE FUNCTION slate.months_between(start date, stop date) RETURNS numeric LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN (EXTRACT(YEAR FROM stop) - EXTRACT(YEAR FROM start)) * 12 + EXTRACT(MONTH FROM stop) - EXTRACT(MONTH FROM start)
  + CASE WHEN stop >= start THEN CASE WHEN EXTRACT(DAY FROM stop) < EXTRACT(DAY FROM start) THEN -1 ELSE 0 END ELSE CASE WHEN EXTRACT(DAY FROM stop) > EXTRACT(DAY FROM start) THEN 1 ELSE 0 END END;
--> statement-breakpoint
-- A day by its numbers, or none when the calendar has none.
CREATE FUNCTION slate.day(year numeric, month numeric, day numeric) RETURNS date LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$
BEGIN
  IF year <> trunc(year) OR month <> trunc(month) OR day <> trunc(day) OR year NOT BETWEEN 1 AND 9999 OR month NOT BETWEEN 1 AND 12 OR day NOT BETWEEN 1 AND 31 THEN RETURN NULL; END IF;
  IF day > EXTRACT(DAY FROM make_date(year::integer, month::integer, 1) + interval '1 month' - interval '1 day') THEN RETURN NULL; END IF;
  RETURN make_date(year::integer, month::integer, day::integer);
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.text_before(whole text, mark text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN left(whole, greatest(strpos(whole, mark) - 1, 0));
--> statement-breakpoint
CREATE FUNCTION slate.text_after(whole text, mark text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
RETURN CASE WHEN strpos(whole, mark) > 0 THEN substr(whole, strpos(whole, mark) + char_length(mark)) ELSE '' END;
--> statement-breakpoint
-- Counts from 1, or from the end with -1. Without a length, or with an empty one, to the end.
CREATE FUNCTION slate.substring(whole text, start numeric, many numeric DEFAULT NULL) RETURNS text LANGUAGE plpgsql IMMUTABLE PARALLEL SAFE AS $$
DECLARE first integer;
BEGIN
  IF whole IS NULL OR start IS NULL OR start = 0 OR start <> trunc(start) THEN RETURN NULL; END IF;
  IF abs(start) > char_length(whole) THEN RETURN ''; END IF;
  first := CASE WHEN start > 0 THEN start ELSE char_length(whole) + start + 1 END;
  IF many IS NULL THEN RETURN substr(whole, first); END IF;
  IF many < 0 OR many <> trunc(many) THEN RETURN NULL; END IF;
  RETURN substr(whole, first, least(many, 100000000)::integer);
END $$;
--> statement-breakpoint
-- By Unicode's full rules, as JavaScript has them; in a function of their own so that their collation reaches no further.
CREATE FUNCTION slate.upper_case(whole text) RETURNS text LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$ BEGIN RETURN upper(whole COLLATE "und-x-icu"); END $$;
--> statement-breakpoint
CREATE FUNCTION slate.lower_case(whole text) RETURNS text LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE AS $$ BEGIN RETURN lower(whole COLLATE "und-x-icu"); END $$;
