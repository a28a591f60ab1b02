-- Criteria, and what a value stands on, are called what the trade calls them.
update score_act set criterion = case criterion
  when 'hairs' then 'stringing'
  when 'ghosts' then 'ringing'
  when 'bridge' then 'bridging'
  when 'snap' then 'layer adhesion'
  else criterion end;
update ladder set weights = replace(replace(replace(replace(weights,
  '"hairs":', '"stringing":'), '"ghosts":', '"ringing":'), '"bridge":', '"bridging":'), '"snap":', '"layer adhesion":');
update ledger set base = replace(replace(base,
  '"feeder":"behind a tube"', '"extruder":"tube-fed"'), '"feeder":"direct"', '"extruder":"direct"');
