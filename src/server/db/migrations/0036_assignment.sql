-- Up Migration

-- What it said is written out where it is asked for: as a function it was planned anew in every statement.
drop function assignment(resource);

-- Down Migration

create function assignment(place resource) returns jsonb language sql stable as $$
  select case when place.owner_id is null then '{}'::jsonb else jsonb_build_object('assigned',
    jsonb_build_object(
      'ownerId', place.owner_id,
      'owner', (select name from subject where id = place.owner_id),
      'freeDays', coalesce((select jsonb_agg(to_char(day, 'YYYY-MM-DD') order by day)
                            from place_free_day where resource_id = place.subject_id), '[]'))) end
$$;
