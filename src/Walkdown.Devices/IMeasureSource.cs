using Walkdown.Core.Acceptance;

namespace Walkdown.Devices;

/// <summary>
/// Something outside that can be asked for readings: a tester, a switch, a clock. It says what it can read and whom it asks; how many ask
/// at once and how long anybody waits is <see cref="MeasureSources"/>' business. It never throws for what the outside does: that is
/// trouble in its answer.
/// </summary>
public interface IMeasureSource
{
    /// <summary>By which checks of the catalogue name it (<c>readFrom</c>).</summary>
    string Id { get; }

    /// <summary>What its readings are marked as.</summary>
    ReadingSource Marks { get; }

    /// <summary>As many questions at most are put to one host at once.</summary>
    int MostAtOnce { get; }

    /// <summary>Code of the text that it has not answered in time; the seconds are its argument.</summary>
    string Silent => "tester.silent";

    /// <summary>Whether it can read a check at all.</summary>
    bool CanRead(CheckDefinition check);

    /// <summary>Whom it asks; null where nobody can be asked, such as a run that ends at no port.</summary>
    string? HostOf(SourceQuestion question);

    /// <summary>Asks. Whose serial number answered is part of the answer.</summary>
    /// <param name="cancel">Ends it at once; it then throws <see cref="OperationCanceledException"/>.</param>
    Task<SourceAnswer> Ask(SourceQuestion question, CancellationToken cancel);
}
