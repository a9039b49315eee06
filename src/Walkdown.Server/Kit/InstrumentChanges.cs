using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Kit;

/// <summary>What an instrument becomes by a request: the same where it is tried as where it is kept.</summary>
internal static class InstrumentChanges
{
    /// <summary>The request asks for other calibration dates than those on record.</summary>
    public static bool IsOther(DateOnly? from, DateOnly? until, InstrumentRequest request) =>
        from is not null && until is not null && (request.CalibratedOn != from || request.CalibrationDue != until);

    /// <summary>Changes the instrument.</summary>
    /// <returns>Why it is left as it is; null where it was changed.</returns>
    public static (Message Why, string Field)? Apply(InstrumentRecord there, InstrumentRequest request, DateTimeOffset now)
    {
        if (IsOther(there.CalibratedOn, there.CalibrationDue, request))
        {
            var (from, until) = (there.CalibratedOn!.Value, there.CalibrationDue!.Value);
            if (request.Calibration is null)
                return (new("kit.which-change"), "calibration");
            if (request.Calibration == CalibrationChange.Corrected && string.IsNullOrWhiteSpace(request.Why))
                return (new("kit.why"), "why");
            if (request.Calibration == CalibrationChange.Newer)
            {
                if (request.CalibratedOn is not { } since || since <= from)
                    return (new("kit.not-newer"), "calibratedOn");
                // The one before stands for the readings of its time.
                var earlier = Stored.Read<ImmutableArray<CalibrationPeriod>>(there.EarlierJson) is { IsDefault: false } periods
                    ? periods
                    : [];
                there.EarlierJson = JsonSerializer.Serialize(
                    earlier.Add(new CalibrationPeriod(from, until < since ? until : since.AddDays(-1), there.Certificate)),
                    CoreJson.Options
                );
            }
        }
        there.RetiredAt = request.Retired ? there.RetiredAt ?? now : null;
        (there.Name, there.Serial, there.Kind, there.Certificate, there.Retired) = (
            request.Name.Trim(),
            request.Serial.Trim(),
            request.Kind,
            request.Certificate.Trim(),
            request.Retired
        );
        (there.CalibratedOn, there.CalibrationDue, there.AccuracyJson) = (
            request.CalibratedOn,
            request.CalibrationDue,
            JsonSerializer.Serialize(request.Functions, CoreJson.Options)
        );
        return null;
    }
}
