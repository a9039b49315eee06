namespace Walkdown.Core.Handover;

/// <summary>Which of a Card's pictures its page shows.</summary>
public static class ReportPictures
{
    /// <summary>
    /// Two: where work was pictured, the last before it and the last after it, side by side; else the first two. One that was erased keeps
    /// its place, so that a page drawn anew
    /// shows what the first one showed.
    /// </summary>
    /// <param name="pictures">In the order in which they were taken.</param>
    /// <param name="momentOf">The moment of one.</param>
    public static ImmutableArray<T> Choose<T>(IReadOnlyList<T> pictures, Func<T, PictureMoment> momentOf)
    {
        int before = LastOf(PictureMoment.Before, pictures.Count),
            after = LastOf(PictureMoment.After, pictures.Count);
        // A "before" that was taken after the last repair is the next one's: there is no pair yet.
        if (after >= 0 && before > after)
            before = LastOf(PictureMoment.Before, after);
        if (before >= 0 && after >= 0)
            return [pictures[before], pictures[after]];
        return [.. pictures.Take(2)];

        int LastOf(PictureMoment moment, int until)
        {
            for (var i = until - 1; i >= 0; i--)
                if (momentOf(pictures[i]) == moment)
                    return i;
            return -1;
        }
    }
}
