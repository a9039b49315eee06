using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Optics;

/// <summary>A view of a head that hangs at a place of the plan.</summary>
/// <param name="DeviceId">Its device.</param>
/// <param name="Label">Of the device.</param>
/// <param name="Head">From 1.</param>
/// <param name="At">Where it hangs.</param>
/// <param name="Design">How it looks; its azimuth is said.</param>
/// <param name="IsAgreed">Somebody agreed to it; false: it is planned and no more.</param>
public sealed record PlacedView(Guid DeviceId, string Label, int Head, PlanPoint At, ViewDesign Design, bool IsAgreed);

/// <summary>What nobody has said of a head, so that it sees nothing of the plan.</summary>
public enum ViewLacks
{
    /// <summary>Where its device hangs.</summary>
    Place,

    /// <summary>How it looks.</summary>
    View,

    /// <summary>To where it looks.</summary>
    Bearing,
}

/// <summary>A head of which no view is known on the plan.</summary>
/// <param name="DeviceId">Its device.</param>
/// <param name="Label">Of the device.</param>
/// <param name="Head">From 1.</param>
/// <param name="Lacks">What nobody has said; the first of what is missing.</param>
public sealed record UnplacedView(Guid DeviceId, string Label, int Head, ViewLacks Lacks);

/// <summary>A head of a camera, and all that was planned for it.</summary>
/// <param name="DeviceId">Its device.</param>
/// <param name="Label">Of the device.</param>
/// <param name="Head">From 1.</param>
/// <param name="At">Where the device hangs; null: nobody has said it.</param>
/// <param name="Planned">Its views as they were kept, oldest first.</param>
public sealed record HangingHead(Guid DeviceId, string Label, int Head, PlanPoint? At, IReadOnlyList<PlannedView> Planned)
{
    /// <summary>Heads that have a view on the plan, and those that have none, with what they lack. The view that was agreed last counts;
    /// where none was, the one that was kept last.</summary>
    public static (ImmutableArray<PlacedView> Views, ImmutableArray<UnplacedView> LeftOut) Sorted(IEnumerable<HangingHead> heads)
    {
        var (views, leftOut) = (ImmutableArray.CreateBuilder<PlacedView>(), ImmutableArray.CreateBuilder<UnplacedView>());
        foreach (var head in heads)
        {
            var view = head.Planned.LastOrDefault(v => v.AgreedBy is not null) ?? head.Planned.LastOrDefault();
            if (head.At is { } at && view is { Design.AzimuthDeg: not null })
                views.Add(new(head.DeviceId, head.Label, head.Head, at, view.Design, view.AgreedBy is not null));
            else
                leftOut.Add(
                    new(
                        head.DeviceId,
                        head.Label,
                        head.Head,
                        head.At is null ? ViewLacks.Place
                            : view is null ? ViewLacks.View
                            : ViewLacks.Bearing
                    )
                );
        }
        return (views.ToImmutable(), leftOut.ToImmutable());
    }
}
