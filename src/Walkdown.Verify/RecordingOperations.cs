using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Verify;

/// <summary>Topics I, time, and J, recording: names and shapes only.</summary>
internal static class RecordingOperations
{
    public static readonly IReadOnlyDictionary<string, Operations.Operation> Time = new Dictionary<string, Operations.Operation>
    {
        ["offset_delay"] = i => Told(ClockOffset.Of(Stamps(i)), "negative_delay_discard"),
        ["best_of"] = i =>
            ClockOffset.BestOf([.. i.List("samples").Select(Stamps)]) is { } best
                ? Told(best, "no_usable_sample")
                : new { verdict = "no_usable_sample" },
        ["one_way_reading"] = i =>
        {
            var r = ClockOffset.OfDisplay(
                i.Number("display_time_s"),
                i.Number("reference_time_s"),
                i.Number("request_s"),
                i.Number("display_resolution_s")
            );
            return new { offset_s = r.OffsetSeconds, uncertainty_s = r.UncertaintySeconds };
        },
        ["camera_recorder"] = i =>
        {
            var r = ClockDifference.Of(
                i.Number("camera_offset_s"),
                i.Number("camera_uncertainty_s"),
                i.Number("recorder_offset_s"),
                i.Number("recorder_uncertainty_s"),
                i.Number("limit_s")
            );
            return new
            {
                difference_s = r.DifferenceSeconds,
                uncertainty_s = r.UncertaintySeconds,
                root_sum_square_s = r.RootSumSquareSeconds,
                verdict = Words.Of(r.Outcome),
            };
        },
        ["zone_mistake"] = i =>
        {
            var r = ZoneMistake.Of(i.Number("offset_s"), i.Number("limit_s", 2), i.Number("residual_tolerance_s", 120));
            return new
            {
                quarter_hours = r.QuarterHours,
                residual_s = r.ResidualSeconds,
                kind = Words.Of(r.Mistake),
            };
        },
        ["flicker"] = i =>
        {
            var r = MainsLight.Of(i.Whole("mains_hz"), i.Number("frame_rate_hz"), i.Number("exposure_s"), i.Number("tolerance_percent", 2));
            return new
            {
                ripple_periods = r.RipplePeriods,
                exposure_safe = r.IsSafe,
                ripple_left_fraction = r.RippleLeft,
                beat_hz = r.BeatHertz,
                bands_stand_still = r.StandsStill,
                safe_exposures_s = r.SafeExposures,
                exposure_longer_than_frame = r.IsLongerThanFrame,
            };
        },
        ["video_standard"] = i =>
        {
            var (family, matches) = MainsLight.Standard(i.Whole("mains_hz"), i.Number("camera_frame_rate_hz"));
            return new { frame_rate_family = Words.Of(family), matches_mains = matches };
        },
    };

    public static readonly IReadOnlyDictionary<string, Operations.Operation> Recording = new Dictionary<string, Operations.Operation>
    {
        ["estimate_bit_rate"] = i =>
        {
            var (uncapped, rate, isCapped) = BitRateEstimate.Of(
                i.Whole("width_px"),
                i.Whole("height_px"),
                i.Number("frames_per_s"),
                i.Word<VideoCodec>("codec"),
                i.Word<SceneComplexity>("complexity"),
                i.Flag("night", false),
                i.OptionalNumber("cap_mbps")
            );
            return new
            {
                uncapped_mbps = uncapped,
                bit_rate_mbps = rate,
                capped = isCapped,
            };
        },
        ["raid_usable"] = i =>
        {
            var r = DiskArray.Of(i.Word<ArrayLevel>("level"), i.Whole("disks"), i.Number("disk_tb"), i.OptionalWhole("hot_spares") ?? 0);
            return new
            {
                usable_tb = r.UsableTb,
                usable_tib = r.UsableTib,
                data_disks = r.DataDisks,
                failures_survived_at_least = r.FailuresSurvived,
            };
        },
        ["retention"] = i =>
        {
            var unit = i.Word<CapacityUnit>("capacity_unit");
            if (unit is not (CapacityUnit.Tb or CapacityUnit.Tib))
                throw new BadInputException(BadInputReason.UnknownValue, "capacity_unit");
            var r = Retention.Of(
                Streams(i),
                i.Number("capacity_value"),
                unit,
                i.Number("reserve_percent", 5),
                i.OptionalNumber("required_days")
            );
            var told = new Dictionary<string, object?>
            {
                ["mean_mbps"] = r.MeanMbps,
                ["peak_mbps"] = r.PeakMbps,
                ["bytes_per_day"] = r.BytesPerDay,
                ["usable_bytes"] = r.UsableBytes,
                ["retention_days"] = r.Days,
                ["verdict"] = Words.Of(r.Verdict),
            };
            if (r.NeededTb is { } needed)
                told["needed_capacity_tb"] = needed;
            return told;
        },
        ["days_until_full"] = i =>
        {
            var cycles = i.Flag("already_cycling", false);
            return new
            {
                days_until_full = Retention.DaysUntilFull(
                    i.Number("free_value"),
                    i.Word<CapacityUnit>("free_unit"),
                    i.Number("mean_mbps"),
                    cycles
                ),
                verdict = cycles ? "recorder_overwrites_already" : "ok",
            };
        },
        ["measured_retention"] = i =>
        {
            var (days, verdict) = MeasuredRetention.Of(
                i.Utc("oldest_utc"),
                i.Utc("newest_utc"),
                i.Number("required_days"),
                i.Flag("reached_steady_state")
            );
            return new { recorded_days = days, verdict = Words.Of(verdict) };
        },
        ["loads"] = i =>
        {
            var r = RecorderLoad.Of(
                Streams(i),
                i.Number("ingest_limit_mbps"),
                i.Number("uplink_limit_mbps"),
                i.OptionalWhole("live_viewers") ?? 0,
                i.Number("live_stream_mbps", 0),
                i.Number("uplink_use_limit_percent", 70)
            );
            return new
            {
                ingest_mbps = r.IngestMbps,
                ingest_percent = r.IngestPercent,
                ingest_ok = r.IngestOk,
                uplink_mbps = r.UplinkMbps,
                uplink_percent = r.UplinkPercent,
                uplink_ok = r.UplinkOk,
                disk_write_mb_per_s = r.DiskWriteMbPerSecond,
            };
        },
        ["memory_card"] = i =>
        {
            var r = MemoryCard.Of(
                i.Number("bit_rate_mbps"),
                i.Number("headroom", 2),
                i.OptionalNumber("card_gb"),
                i.Number("duty_percent", 100),
                i.OptionalNumber("endurance_tbw")
            );
            return new
            {
                needed_mb_per_s = r.NeededMbPerSecond,
                lowest_class = r.LowestClass,
                card_days = r.Days,
                wear_out_days = r.WearOutDays,
            };
        },
    };

    private static object Told(ClockOffset offset, string discarded) =>
        new
        {
            offset_s = offset.OffsetSeconds,
            delay_s = offset.DelaySeconds,
            uncertainty_s = offset.UncertaintySeconds,
            verdict = offset.IsUsable ? "ok" : discarded,
        };

    /// <summary>Topic O, of which the identifiers are here.</summary>
    public static readonly IReadOnlyDictionary<string, Operations.Operation> Plates = new Dictionary<string, Operations.Operation>
    {
        ["identifiers"] = i =>
        {
            EventIdentifier[] rows =
            [
                .. i.List("rows").Select(r => new EventIdentifier(r.Text("device"), r.OptionalText("identifier"), r.OptionalText("role"))),
            ];
            var (found, only) = new IdentifierRule(
                i.Whole("length"),
                i.Whole("role_start"),
                i.Texts("role_codes").ToDictionary(t => t.Key, t => t.Value ?? "")
            ).Check(rows, i.Has("other_system") ? i.Texts("other_system").ToDictionary() : null);
            return new
            {
                rows = rows.Select((r, n) => new { device = r.Device, findings = found[n].Select(f => Words.Of(f)) }),
                only_in_other_system = only,
                rows_with_findings = found.Count(f => !f.IsEmpty),
            };
        },
    };

    private static ClockStamps Stamps(CaseInput i) =>
        new(
            i.Number("t1_s"),
            i.Number("t2_s"),
            i.Number("t3_s"),
            i.Number("t4_s"),
            i.Number("server_precision_s", 0),
            i.Number("client_precision_s", 0)
        );

    private static RecordedStream[] Streams(CaseInput i) =>
        [
            .. i.List("streams")
                .Select(s => new RecordedStream(
                    s.Number("bit_rate_mbps"),
                    s.Word<RecordingMode>("mode", RecordingMode.Continuous),
                    s.OptionalNumber("motion_duty_percent"),
                    s.OptionalNumber("hours_per_day"),
                    s.Number("days_per_week", 7),
                    s.Number("background_mbps", 0)
                )),
        ];
}
