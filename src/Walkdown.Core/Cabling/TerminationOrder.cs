namespace Walkdown.Core.Cabling;

/// <summary>The order of terminating at a housing, from what is there already (CAPABILITIES C16).</summary>
/// <param name="Steps">Codes of the steps, in order.</param>
/// <param name="CutsPlug">The plug that is on has to go: everything that was measured through it is to be measured anew.</param>
/// <param name="Fits">The plug as it is goes into the housing.</param>
public sealed record TerminationOrder(ImmutableArray<string> Steps, bool CutsPlug, bool Fits)
{
    /// <summary>What is to be done.</summary>
    /// <param name="plugOn">A plug is on the cable already.</param>
    /// <param name="threaded">It went through the cap already, or there is no cap.</param>
    /// <param name="splitCap">The cap, or its gasket, opens along its side.</param>
    /// <param name="boot">The plug has a relief boot.</param>
    /// <param name="housingTakesBoot">The housing has room for a boot.</param>
    public static TerminationOrder Of(bool plugOn, bool threaded, bool splitCap, bool boot, bool housingTakesBoot)
    {
        var steps = ImmutableArray.CreateBuilder<string>();
        var fits = !boot || housingTakesBoot;
        var cuts = plugOn && !threaded && !splitCap;
        if (cuts)
            steps.Add("order.cut");
        if (!threaded)
            steps.Add(splitCap ? "order.clip-cap" : "order.thread-cap");
        if (!plugOn || cuts)
        {
            if (!fits)
                steps.Add("order.no-boot");
            steps.Add("order.colours");
            steps.Add("order.crimp");
        }
        else if (!fits)
            steps.Add("order.cut-boot");
        steps.Add("order.map");
        return new TerminationOrder(steps.ToImmutable(), cuts, fits);
    }
}
